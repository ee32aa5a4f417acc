// Makes src/BrightTier.Core/Icons/icons.txt from an unpacked copy of the package lucide-static (ISC): node scripts/icons.mjs path/to/package
// A line is a name and one SVG path on a raster of 24, stroked, not filled.
import { readFileSync, writeFileSync } from "node:fs";

const names =
  `activity alarm-clock anchor archive arrow-down arrow-left arrow-right arrow-up award badge-check badge-euro banknote barcode
battery bed bell bike book book-open bookmark box briefcase brush building bus calculator calendar calendar-check calendar-clock
calendar-days camera car chart-column chart-line chart-pie check circle-alert circle-check circle-question-mark circle-x clipboard
clipboard-check clipboard-list clock cloud cog coins compass construction contact copy credit-card crown dog door-open download
droplet euro external-link eye eye-off factory file file-check file-text files fish flag flame folder forklift fuel funnel gauge
gift globe graduation-cap hammer hand handshake hard-hat heart house id-card image images inbox info key kayak languages layers
layout-grid leaf life-buoy lightbulb link list list-checks lock log-in log-out mail map map-pin megaphone message-circle mic moon
navigation network newspaper notebook package paintbrush palette paperclip pencil percent phone pill pin plane plug plus printer
qr-code radio receipt refresh-cw repeat route ruler sailboat save scale scan scissors search send server settings share-2 shield
shield-check ship ship-wheel shopping-cart signature snowflake stamp star stethoscope store sun syringe table tag tags target
thermometer thumbs-up ticket timer train-front trash tree-pine triangle-alert truck umbrella undo user user-check users utensils
video wallet warehouse weight wind wrench zap`.split(/\s+/);

const from = process.argv[2];
const nodes = JSON.parse(readFileSync(`${from}/icon-nodes.json`, "utf8"));
const { version } = JSON.parse(readFileSync(`${from}/package.json`, "utf8"));
const points = (list) =>
  list
    .trim()
    .split(/[\s,]+/)
    .map(Number);
const pairs = (list) =>
  points(list).reduce(
    (made, each, i) =>
      i % 2
        ? [...made.slice(0, -1), `${made.at(-1)} ${each}`]
        : [...made, `${each}`],
    [],
  );
const ellipse = (cx, cy, rx, ry) =>
  `M${cx - rx} ${cy}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0`;
const shapes = {
  path: (a) => a.d,
  line: (a) => `M${a.x1} ${a.y1}L${a.x2} ${a.y2}`,
  polyline: (a) => `M${pairs(a.points).join("L")}`,
  polygon: (a) => `M${pairs(a.points).join("L")}Z`,
  circle: (a) => ellipse(+a.cx, +a.cy, +a.r, +a.r),
  ellipse: (a) => ellipse(+a.cx, +a.cy, +a.rx, +a.ry),
  rect: (a) => {
    const [x, y, w, h, r] = [
      +(a.x ?? 0),
      +(a.y ?? 0),
      +a.width,
      +a.height,
      +(a.rx ?? a.ry ?? 0),
    ];
    const corner = (dx, dy) => `a${r} ${r} 0 0 1 ${dx} ${dy}`;
    const [across, down] = [w - 2 * r, h - 2 * r];
    return r
      ? `M${x + r} ${y}h${across}${corner(r, r)}v${down}${corner(-r, r)}h${-across}${corner(-r, -r)}v${-down}${corner(r, -r)}z`
      : `M${x} ${y}h${w}v${h}h${-w}z`;
  },
};
// A path that begins with a small m begins where it says, not where the one before ended; further pairs are lines.
const number = /^[\s,]*(-?(?:\d+\.?\d*|\.\d+))/;
const whole = (d) => {
  if (!d.startsWith("m")) return d;
  let rest = d.slice(1);
  const [x, y] = [0, 1].map(() => {
    const [all, each] = number.exec(rest);
    rest = rest.slice(all.length);
    return each;
  });
  return `M${x} ${y}${number.test(rest) ? "l" : ""}${rest.trimStart()}`;
};
const lines = names.map((name) => {
  if (!nodes[name]) throw new Error(`There is no '${name}' in ${from}.`);
  return `${name} ${nodes[name].map(([shape, attributes]) => whole(shapes[shape](attributes))).join("")}`;
});
writeFileSync(
  new URL("../src/BrightTier.Core/Icons/icons.txt", import.meta.url),
  [
    `# From lucide-static ${version}, ISC license, copyright (c) Lucide Icons and Contributors; made by scripts/icons.mjs.`,
    ...[...new Set(lines)].sort(),
    "",
  ].join("\n"),
);
console.log(`${lines.length} icons`);
