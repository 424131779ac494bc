#include "design/head_shape.h"

#include "design/neck_outline.h"
#include "design/tuner_places.h"

#include <algorithm>

namespace wren {
namespace {

constexpr double aroundBushing = 7; ///< wood from a bushing's hole to the edge
constexpr double leastHalf = 14;    ///< of the head's width, anywhere
constexpr double narrowing = 0.86;  ///< from node to node, at most, where no tuner asks for more
constexpr double flare = 22;        ///< X behind the nut where the edges begin to leave it

/// Posts of one side, the nearest to the nut first; right-handed, bass at -Y.
struct Row {
    std::vector<Vec2> posts;
    double side; ///< -1 bass, 1 treble
};

class Drawing {
public:
    Drawing(const Neck& neck, const Fretboard& board)
        : wood_(neck.tuners.bushing / 2 + aroundBushing) {
        Fretboard right = board;
        right.hand = Hand::right;
        nut_ = {board.nutSpread / 2 + board.overhangBass,
                board.nutSpread / 2 + board.overhangTreble};
        Neck plain = neck; // the places only, and any head will do for them
        plain.head.nodes = Headstock().nodes;
        for (const TunerPlace& p : tunerPlaces(plain, right, NeckOutline(plain, right))) {
            rows_[p.onBassSide ? 0 : 1].posts.push_back(p.post);
            tip_ = std::min(tip_, p.post.x);
        }
        for (Row& row : rows_) {
            std::sort(row.posts.begin(), row.posts.end(), [](Vec2 a, Vec2 b) { return a.x > b.x; });
        }
    }

    std::vector<HeadNode> nodes(const std::string& name) const {
        const std::vector<HeadNode> bass = edge(0);
        std::vector<HeadNode> treble = edge(1);
        std::vector<HeadNode> nodes = bass;
        const double low = bass.back().at.y;
        const double high = treble.back().at.y;
        const double end = tip_ - wood_;
        if (name == "paddle") {
            nodes.push_back({{end - 8, (low + high) / 2}, false});
        } else if (name == "keel") {
            nodes.push_back({{end - 22, (low + high) / 2}, true});
        } else {
            nodes.push_back({{end - 6, low + (high - low) * 0.12}, true});
            nodes.push_back({{end - 13, (low + high) / 2}, false});
            nodes.push_back({{end - 8, low + (high - low) * 0.88}, true});
        }
        nodes.insert(nodes.end(), treble.rbegin(), treble.rend());
        for (HeadNode& n : nodes) { // to what is typed
            n.at = {std::round(n.at.x * 100) / 100, std::round(n.at.y * 100) / 100};
        }
        return nodes;
    }

private:
    /// From the nut to the tip along a side: outside of that side's posts, and of the other's where
    /// those reach across.
    std::vector<HeadNode> edge(std::size_t k) const {
        const double side = rows_[k].side;
        std::vector<HeadNode> nodes{{{-flare, side * (nut_[k] + 0.5)}, false}};
        double last = -flare;
        double before = nut_[k]; // half the head's width on this side, at the node before
        const auto at = [&](double x) {
            double out = std::max(leastHalf, narrowing * before);
            for (const Row& row : rows_) {
                for (Vec2 p : row.posts) {
                    if (std::abs(p.x - x) < 1.2 * wood_ + 6) {
                        out = std::max(out, side * p.y + wood_);
                    }
                }
            }
            before = out;
            return side * out;
        };
        std::vector<double> places;
        for (const Row& row : rows_) {
            for (Vec2 p : row.posts) {
                places.push_back(p.x);
            }
        }
        places.push_back(tip_ - wood_ * 0.6);
        std::sort(places.rbegin(), places.rend());
        for (double x : places) {
            if (x < last - 14 || x == places.back()) {
                if (x > last - 8) {
                    nodes.pop_back();
                }
                nodes.push_back({{x, at(x)}, false});
                last = x;
            }
        }
        return nodes;
    }

    double wood_;
    std::array<double, 2> nut_{};
    std::array<Row, 2> rows_{Row{{}, -1}, Row{{}, 1}};
    double tip_ = 0;
};

} // namespace

const std::vector<std::string>& headShapeNames() {
    static const std::vector<std::string> names{"chisel", "keel", "paddle"};
    return names;
}

std::vector<HeadNode> headRound(const std::string& name, const Neck& neck, const Fretboard& board) {
    const auto& names = headShapeNames();
    return std::find(names.begin(), names.end(), name) == names.end()
               ? std::vector<HeadNode>()
               : Drawing(neck, board).nodes(name);
}

} // namespace wren
