#pragma once

#include "cut/settings.h"
#include "design/body.h"

#include <string>
#include <vector>

namespace wren {

// Lists of features as one line of text: what files of versions 1 and 2 hold, and a short way of
// typing them at the command line. Places are "X Y" from the bridge line, in mm. All throw Error
// with the entry that cannot be read, what was expected, and an example.

std::vector<TabPlace> tabList(const std::string& text);      ///< "b60 t60 b230.5", from the nut
std::vector<Control> controlList(const std::string& text);   ///< "pot 60 95, toggle 10 120"
std::vector<StrapButton> strapList(const std::string& text); ///< "116 4, -306 -96"
std::vector<Chamber> chamberList(const std::string& text);   ///< shapeNodes(), parted by ";"
std::vector<Channel> channelList(const std::string& text);   ///< "X Y X Y width depth; ..."
/// "X Y X Y angle radius bow; ...", the bow at will.
std::vector<FaceSlope> slopeList(const std::string& text, bool back);
/// "front 3: nodes; back through: nodes; inlay 2: nodes"
std::vector<Recess> recessList(const std::string& text);
std::vector<WireHole> wireList(const std::string& text); ///< "X Y depth X Y depth diameter; ..."
/// "back words X Y HEIGHT TURN DEPTH: Fell No. 3; front shape DEPTH: nodes"
std::vector<Engraving> engravingList(const std::string& text);

} // namespace wren
