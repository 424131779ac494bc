#include "job/models.h"

#include "base/error.h"
#include "exchange/board_solid.h"
#include "exchange/neck_solid.h"
#include "exchange/panel_solid.h"
#include "exchange/solid_check.h"
#include "exchange/stl.h"
#include "part/panel_mesh.h"

#include <fmt/format.h>
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

/// Both from one solid and its own triangles.
template <typename Make>
Models fromSolid(const Definition& wood, const std::string& part, const std::string& title,
                 Make make) {
    Models models;
    models.step = orWhyNot(models, [&] {
        const auto solid = make();
        const Mesh mesh = solid.mesh();
        checkSurface(mesh, wood, part + "'s solid");
        models.stl = toStl(mesh, title);
        return solid.step(title);
    });
    return models;
}

} // namespace

Models boardModels(const BoardPart& board, const std::string& title, const Watch& watch) {
    return fromSolid(definitionOf(board), "fretboard", title,
                     [&] { return BoardSolid(board, watch); });
}

Models neckModels(const NeckPart& part, const std::string& title, const Watch& watch) {
    return fromSolid(definitionOf(part), "neck", title, [&] { return NeckSolid(part, watch); });
}

Models panelModels(const Panel& panel, const std::string& title, const Watch& watch,
                   ModelKind kind) {
    const Definition wood = definitionOf(panel);
    Models solid;
    Models triangles;
    const auto step = [&] {
        solid.step = orWhyNot(solid, [&] {
            const PanelSolid shape(panel, watch);
            checkSurface(shape.places(), wood, panel.name() + "'s solid");
            return shape.step(title);
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
    solid.stl = std::move(triangles.stl);
    solid.missing.insert(solid.missing.end(), triangles.missing.begin(), triangles.missing.end());
    return solid;
}

Models partModels(const Derived& d, const PartJob& job, const std::string& title,
                  const Watch& watch, ModelKind kind) {
    if (job.panel) {
        return panelModels(*job.panel, title, watch, kind);
    }
    return job.id == Role::neck ? neckModels(d.neck->part, title, watch)
                                : boardModels(*d.board, title, watch);
}

} // namespace wren
