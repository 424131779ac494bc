// The whole instrument against what the project did not write: masses and centres against Open
// CASCADE (GProp) with the Wood Handbook's figures, pull of strings by Taylor's formula, notes by
// ISO 16.

#include "base/files.h"
#include "design/string_set.h"
#include "job/balance.h"
#include "job/models.h"
#include "job/store.h"
#include "shop/wood.h"

#include "support.h"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <STEPControl_Reader.hxx>

#include <cmath>
#include <map>
#include <numbers>

using namespace wren;

namespace {

GProp_GProps propsOf(const std::string& step) {
    const test::Folder folder;
    const std::string file = (folder / "part.step").string();
    writeFileSafely(file, step);
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile(file.c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    GProp_GProps props;
    BRepGProp::VolumeProperties(reader.OneShape(), props, 1e-6);
    return props;
}

} // namespace

TEST_CASE("Masses and centres of the demo's parts are those of their solids", "[outside]") {
    Derived d = deriveDrawing(loadProject(std::string(WREN_SOURCE) + "/demo/whinchat.wren"));
    const Balance balance = balanceOf(d);
    // USDA Wood Handbook, FPL-GTR-282, table 5-3b: specific gravities at 12 % moisture; chapter 4:
    // density = gravity x 1.12.
    const std::map<std::string, double> gravity{
        {"hard-maple", 0.63}, {"white-ash", 0.60}, {"cherry", 0.50}};
    int compared = 0;
    for (const PieceMass& m : balance.parts) {
        if (m.part != Role::board && m.part != Role::neck && m.part != Role::lid) {
            continue; // layers are weighed as they are in the glued-up body, below
        }
        INFO(m.part.name());
        const Models models = partModels(d, *d.job(m.part), m.part.name(), {}, ModelKind::step);
        const GProp_GProps props = propsOf(models.step);
        const double mass = props.Mass() / 1000 * gravity.at(m.wood) * 1.12;
        CHECK(m.mass == Approx(mass).epsilon(0.003));
        Vec3 centre{props.CentreOfMass().X(), props.CentreOfMass().Y(), props.CentreOfMass().Z()};
        if (m.part == Role::lid) {
            centre = d.body->part.place().toInstrument(centre);
        }
        CHECK(m.centre.x == Approx(centre.x).margin(0.5));
        CHECK(m.centre.y == Approx(centre.y).margin(0.2));
        CHECK(m.centre.z == Approx(centre.z).margin(0.2));
        ++compared;
    }
    CHECK(compared == 3);
    // The glued-up body, as if of one wood.
    const GProp_GProps body =
        propsOf(partModels(d, *d.job(Role::body), "body", {}, ModelKind::step).step);
    double volume = 0;
    Vec3 moment;
    for (const PieceMass& m : balance.parts) {
        if (m.part == Role::core || m.part == Role::top) {
            volume += m.volume;
            moment = moment + m.centre * m.volume;
        }
    }
    CHECK(volume == Approx(body.Mass()).epsilon(0.003));
    const Vec3 centre = d.body->part.place().toInstrument(
        {body.CentreOfMass().X(), body.CentreOfMass().Y(), body.CentreOfMass().Z()});
    CHECK(moment.x / volume == Approx(centre.x).margin(0.3));
    CHECK(moment.y / volume == Approx(centre.y).margin(0.3));
    CHECK(moment.z / volume == Approx(centre.z).margin(0.2));
}

TEST_CASE("Strings pull as Taylor's formula says", "[outside]") {
    // ISO 16:1975: A4 is 440 Hz; a semitone is the twelfth root of two.
    CHECK(noteFrequency("A4") == Approx(440));
    CHECK(noteFrequency("A2") == Approx(110));
    CHECK(noteFrequency("E4") == Approx(440 * std::pow(2, -5 / 12.0)));
    CHECK(noteFrequency("Bb3") == Approx(noteFrequency("A#3")));
    CHECK(noteFrequency("C4") == Approx(261.6256).epsilon(1e-6));
    CHECK(noteFrequency("B3") * std::pow(2, 1 / 12.0) == Approx(noteFrequency("C4")));
    // Common practice, no source: a plain steel string of 0.010 in at E4 over 25 1/2 in pulls
    // about 16.2 lbf.
    StringGauge thin;
    thin.thickness = 0.254;
    thin.note = "E4";
    CHECK(*tensionOf(thin, 647.7) / 4.448222 == Approx(16.2).epsilon(0.01));
    // Taylor 1713, f = sqrt(T / mu) / (2 L), the other way round.
    for (double mu : {0.4, 2.5, 12.0}) {
        for (double scale : {560.0, 648.0, 864.0}) {
            const double t = stringTension(mu, scale, 98);
            CHECK(std::sqrt(t / (mu / 1000)) / (2 * scale / 1000) == Approx(98));
        }
    }
}

TEST_CASE("Woods weigh what the Wood Handbook's tables say", "[outside]") {
    // USDA Wood Handbook, FPL-GTR-282, table 5-3: specific gravity on oven-dry mass and the volume
    // at 12 % moisture, of clear wood grown in the United States; chapter 4: the water it holds
    // then comes on top.
    const std::map<std::string, double> table{
        {"hard-maple", 0.63}, {"soft-maple", 0.54}, {"white-ash", 0.60},  {"walnut", 0.55},
        {"cherry", 0.50},     {"poplar", 0.42},     {"alder", 0.41},      {"basswood", 0.37},
        {"birch", 0.62},      {"red-oak", 0.63},    {"white-pine", 0.35}, {"spruce", 0.40}};
    for (const auto& [id, gravity] : table) {
        INFO(id);
        const Wood& wood = woodById(id);
        CHECK(wood.specificGravity == gravity);
        CHECK(wood.density() == Approx(gravity * 1.12));
        CHECK(std::string(wood.source).find("Wood Handbook") != std::string::npos);
    }
    // What the table has not is marked so; each wood has a name and a density of its own.
    std::map<std::string, int> names;
    for (const Wood& wood : woods()) {
        INFO(wood.id);
        CHECK(++names[wood.name] == 1);
        CHECK(wood.density() > 0.2);
        CHECK(wood.density() < 1.4);
        const bool fromTable = table.count(wood.id) > 0;
        CHECK((std::string(wood.source).find("memory") == std::string::npos) == fromTable);
    }
    // Sold by its density: made board and cast stock are not weighed up for their water.
    CHECK(woodById("mdf").density() == woodById("mdf").specificGravity);
    CHECK(woodById("acrylic").density() == woodById("acrylic").specificGravity);
    CHECK_THROWS_AS(woodById("unobtainium"), Error);
}
