import { at, bolt, hexagon } from "./geometry";
import classes from "./drawing.module.css";

export type LayoutName = "ring" | "pair" | "line" | "grid" | "single";

const places: Record<LayoutName, [number, number][]> = {
  ring: Array.from({ length: 8 }, (_, i) => {
    const p = at(bolt(i + 1, 8, false), 74);
    return [p.x, p.y];
  }),
  pair: [
    [-62, 0],
    [62, 0],
  ],
  line: [-78, -26, 26, 78].map((x) => [x, 0]),
  grid: [-60, 0, 60].flatMap((y) => [-60, 0, 60].map((x): [number, number] => [x, y])),
  single: [[0, 0]],
};

/** How the bolts of a kind of joint lie, as its mark. */
export function Layout({ name, size = 44 }: { name: LayoutName; size?: number }) {
  const r = name === "single" ? 52 : 24;
  return (
    <svg viewBox="-104 -104 208 208" width={size} height={size} aria-hidden="true" className={classes.layout}>
      {name === "ring" && <circle r={40} />}
      {name === "pair" && <circle r={30} />}
      {places[name].map(([x, y]) => (
        <polygon key={`${x} ${y}`} points={hexagon(r)} transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`} />
      ))}
    </svg>
  );
}
