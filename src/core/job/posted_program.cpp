#include "job/posted_program.h"

#include "base/digest.h"
#include "post/motion_text.h"
#include "proof/travel.h"

namespace wren {

PostedProgram PostedProgram::of(Program program, const RunProgram& read, const Machine& machine) {
    PostedProgram p;
    p.time = timeOf(read.path, machine);
    p.extents = extentsOf(read.path);
    for (Vec3& corner : p.extents) {
        corner = corner - Vec3{program.zero.x, program.zero.y, 0};
    }
    p.motion = wren::sha256(motionText(program.text));
    p.setText(program);
    return p;
}

void PostedProgram::setText(const Program& posted) {
    program = posted;
    sha256 = wren::sha256(program.text);
}

} // namespace wren
