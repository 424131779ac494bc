#include "job/models.h"

#include "base/error.h"
#include "base/in_turn.h"
#include "exchange/board_solid.h"
#include "exchange/neck_solid.h"
#include "exchange/panel_solid.h"
#include "exchange/solid_check.h"
#include "exchange/stl.h"
#include "part/panel_mesh.h"

#include <memory>

#include <fmt/format.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

namespace wren {
namespace {

/// Throws Error when a mesh, or places of a solid's faces, stray from the design.
template <typename Surface>
void checkSurface(const Surface& surface, const Definition& wood, const std::string& what) {
    if (const std::optional<Stray> off = worstStray(surface, wood)) {
        throw Error(fmt::format("The {} came out about {:.2f} mm off the design at X {:.1f}, "
                                "Y {:.1f}, Z {:.1f}; it is not written.",
                                what, off->by, off->at.x, off->at.y, off->at.z));
    }
}

/// What one half of the work comes to: its text, or why there is none.
template <typename Make>
std::string orWhyNot(Models& models, Make make) {
    try {
        return make();
    } catch (const Cancelled&) {
        throw;
    } catch (const Error& e) {
        models.missing.push_back(e.what());
        return {};
    }
}

/// Models whose solid is made and judged, and whose STEP text is still to be written of it.
struct Draft {
    Models models;
    std::function<std::string()> step; ///< none: there is no solid
};

void write(Draft& draft) {
    if (draft.step) {
        draft.models.step = orWhyNot(draft.models, draft.step);
        draft.step = nullptr; // the solid is let go
    }
}

Models written(Draft draft) {
    write(draft);
    return std::move(draft.models);
}

/// Makes a solid, judges it, and leaves its text to be written.
template <typename Make, typename Judge>
void draftSolid(Draft& draft, const std::string& title, Make make, Judge judge) {
    orWhyNot(draft.models, [&] {
        const auto solid = std::make_shared<decltype(make())>(make());
        judge(*solid);
        draft.step = [solid, title] { return solid->step(title); };
        return std::string();
    });
}

/// Both from one solid and its own triangles.
template <typename Make>
Draft fromSolid(const Definition& wood, const std::string& part, const std::string& title,
                Make make) {
    Draft draft;
    draftSolid(draft, title, make, [&](const auto& solid) {
        const Mesh mesh = solid.mesh();
        checkSurface(mesh, wood, part + "'s solid");
        draft.models.stl = toStl(mesh, title);
    });
    return draft;
}

Draft boardDraft(const BoardPart& board, const std::string& title, const Watch& watch) {
    return fromSolid(definitionOf(board), "fretboard", title,
                     [&] { return BoardSolid(board, watch); });
}

Draft neckDraft(const NeckPart& part, const std::string& title, const Watch& watch) {
    return fromSolid(definitionOf(part), "neck", title, [&] { return NeckSolid(part, watch); });
}

Draft panelDraft(const Panel& panel, const std::string& title, const Watch& watch, ModelKind kind) {
    const Definition wood = definitionOf(panel);
    Draft solid;
    Models triangles;
    const auto step = [&] {
        draftSolid(
            solid, title, [&] { return PanelSolid(panel, watch); },
            [&](const PanelSolid& shape) {
                checkSurface(shape.places(), wood, panel.name() + "'s solid");
            });
    };
    // Straight from the definition, beside the solid and whether or not the library finds one.
    const auto stl = [&] {
        triangles.stl = orWhyNot(triangles, [&] {
            const Mesh mesh = panelMesh(panel, 0.01, watch);
            checkSurface(mesh, wood, panel.name() + "'s triangles");
            return toStl(mesh, title);
        });
    };
    if (kind == ModelKind::step) {
        step();
    } else if (kind == ModelKind::stl) {
        stl();
    } else {
        tbb::parallel_invoke(step, stl);
    }
    solid.models.stl = std::move(triangles.stl);
    solid.models.missing.insert(solid.models.missing.end(), triangles.missing.begin(),
                                triangles.missing.end());
    return solid;
}

Draft partDraft(const Derived& d, const PartJob& job, const std::string& title, const Watch& watch,
                ModelKind kind) {
    if (job.panel) {
        // Of one that is only gone over once more, the whole of it.
        return panelDraft(job.panel->free ? *d.body->part.panel(job.id) : *job.panel, title, watch,
                          kind);
    }
    return job.id == Role::neck ? neckDraft(d.neck->part, title, watch)
                                : boardDraft(*d.board, title, watch);
}

} // namespace

Models neckModels(const NeckPart& part, const std::string& title, const Watch& watch) {
    return written(neckDraft(part, title, watch));
}

Models panelModels(const Panel& panel, const std::string& title, const Watch& watch,
                   ModelKind kind) {
    return written(panelDraft(panel, title, watch, kind));
}

Models partModels(const Derived& d, const PartJob& job, const std::string& title,
                  const Watch& watch, ModelKind kind) {
    return written(partDraft(d, job, title, watch, kind));
}

std::vector<Models> partsModels(const Derived& d, const std::vector<PartId>& parts,
                                const std::vector<std::string>& titles, const Watch& watch) {
    std::vector<Draft> drafts(parts.size());
    InTurn writing;
    tbb::parallel_for(std::size_t{0}, parts.size(), [&](std::size_t i) {
        drafts[i] = partDraft(d, *d.job(parts[i]), titles[i], watch, ModelKind::both);
        writing.run([&drafts, i] { write(drafts[i]); });
    });
    std::vector<Models> all;
    for (Draft& draft : drafts) {
        all.push_back(std::move(draft.models));
    }
    return all;
}

} // namespace wren
