#!/usr/bin/env bash
# Lays the demo out in a folder of its own, so that trying things leaves the shipped files alone; writes
# down what its shop has on the rack and has learnt; and really runs the first two programs on the
# simulated machine. All of it is made up.
set -eu
here=$(cd "$(dirname "$0")" && pwd)
bin=$here/../build/bin
folder=$1
mkdir -p "$folder"
for project in whinchat dotterel ring-ouzel; do
  if [ ! -e "$folder/$project.wren" ]; then
    cp "$here/$project.wren" "$folder/"
  fi
done

book=$folder/shop.sqlite
down() {
  "$bin/wren" book add "$@" --book "$book" >/dev/null
}
write_down() {
  down blank "name=maple 4" wood=hard-maple length=520mm width=80mm thickness=7.1mm moisture=7.5 \
    since=2026-02-10 "figure=straight, quarter-sawn" "reserved=Whinchat"
  down blank "name=maple 5" wood=hard-maple length=520mm width=78mm thickness=6.9mm moisture=7.5 \
    since=2026-02-10 bow=0.4mm
  down blank "name=maple plank" wood=hard-maple length=720mm width=105mm thickness=25.6mm moisture=8 \
    since=2025-11-02 "figure=three strips, glued" twist=0.3mm
  down blank "name=ash slab" wood=white-ash length=480mm width=360mm thickness=34.5mm moisture=8.5 \
    since=2025-06-18 "from=a storm-felled tree" "note=a knot near one end"
  down blank "name=ash, second" wood=white-ash length=480mm width=355mm thickness=35.2mm moisture=9 \
    since=2025-06-18
  down blank "name=cherry leaves" wood=cherry length=500mm width=360mm thickness=9.8mm moisture=8 \
    since=2026-04-01 "figure=bookmatched, glued"
  down blank "name=walnut offcut" wood=walnut length=260mm width=120mm thickness=12mm since=2026-08-20
  down hardware "name=truss rod" state=ordered "note=two weeks"
  down hardware "name=fret wire" state=measured size=0.53mm
  down hardware "name=tuner" state=here
  down hardware "name=pickup 1" state=measured size=84.4mm project=Whinchat
  down hardware "name=nut" state=measured size=5mm
  down bit name=slot-0.58 event=new "note=the one before broke" when=2026-09-06
  down bit name=long-6 event=sharpened when=2026-09-16
  down mishap what=chatter bit=long-6 wood=white-ash "cuts=outline" "cure=a skim less deep" when=2026-09-22
  ran() { # instrument part program bit wood cuts planned taken feed metres day
    down run "project=$1" "part=$2" "program=$3" "bit=$4" "wood=$5" "cuts=$6" "planned=$7" "taken=$8" \
      "feed=$9" "metres=${10}" "when=2026-${11}T10:00:00Z"
  }
  ran "Whinchat, the first" fretboard 01-fretboard-radius-bull-12-3.nc bull-12-3 hard-maple radius 16 17 100 21 09-07
  ran "Whinchat, the first" fretboard 03-fretboard-slots-slot-0.58.nc slot-0.58 hard-maple slots 38 44 90 16 09-07
  ran "Whinchat, the first" fretboard 04-fretboard-outline-flat-6.nc flat-6 hard-maple outline 2 2 100 3 09-07
  ran "Whinchat, the first" neck 05-neck-rod-head-notch-flat-6.nc flat-6 hard-maple "rod + head + notch" 11 12 100 14 09-09
  ran "Whinchat, the first" neck 09-neck-rough-notch-tuners-outline-long-6.nc long-6 hard-maple \
    "rough + notch + tuners + outline" 35 41 85 47 09-09
  ran "Whinchat, the first" neck 12-neck-finish-ball-6.nc ball-6 hard-maple finish 30 31 100 58 09-10
  ran "Whinchat, the first" "body core" 13-body-core-chambers-channels-long-6.nc long-6 white-ash \
    "chambers + channels" 18 19 100 33 09-14
  ran "Whinchat, the first" body 24-body-outline-long-6.nc long-6 white-ash outline 4 6 70 8 09-21
  down measurement "project=Whinchat, the first" size=neck.heel_width value=56.69mm drawn=56.77mm moisture=8 when=2026-09-11
  down measurement "project=Whinchat, the first" size=fretboard.slot_width value=0.6mm drawn=0.58mm \
    bit=slot-0.58 wood=hard-maple when=2026-09-08
  down machine "name=Fell bench router" event=surfaced when=2026-09-05
  down machine "name=Fell bench router" event=serviced "note=spindle nose cleaned, belts tightened" when=2026-08-30
  down wood name=white-ash "note=splinters at the horns where the grain runs out"
  down handwork "project=Whinchat, the first" "step=Setup: relief" by=Ansa minutes=20 "note=0.2 mm" when=2026-10-12
  down note "text=press the frets before the board is glued, it stayed flatter" part=fretboard next=yes
  down note "text=brush the pin holes again after the glue-up" part=body next=yes
}

if [ ! -e "$book" ]; then
  write_down
  "$bin/wren-controller" --tcp 0 --speed 5000 >"$folder/address" &
  controller=$!
  trap 'kill $controller 2>/dev/null; rm -f "$folder/address"' EXIT
  for _ in $(seq 100); do
    [ -s "$folder/address" ] && break
    sleep 0.05
  done
  for program in 1 2; do
    "$bin/wren" run "$here/whinchat.wren" --program "$program" --to "$(cat "$folder/address")" \
      --book "$book" >/dev/null
  done
fi
