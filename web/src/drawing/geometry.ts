/** Where things are on the drawing of a ring. Units are the drawing's own: the flange's rim has radius 100. */

export interface Point {
  x: number;
  y: number;
}

export const RIM = 100;
export const CIRCLE = 84;

/** Angle of a bolt's position, radians clockwise from the top. */
export function bolt(position: number, n: number, onCentre: boolean) {
  return ((position - (onCentre ? 1 : 0.5)) * 2 * Math.PI) / n;
}

export function at(angle: number, radius: number): Point {
  return { x: radius * Math.sin(angle), y: -radius * Math.cos(angle) };
}

/** Radius of a hexagon that leaves its neighbours room. */
export function size(n: number) {
  return Math.min(12.5, CIRCLE * Math.sin(Math.PI / n) * 0.86);
}

const half = Math.sqrt(3) / 2;

/** Corners of a hexagon of radius r that stands on a side. */
export function hexagon(r: number) {
  return points([
    [r, 0],
    [r / 2, r * half],
    [-r / 2, r * half],
    [-r, 0],
    [-r / 2, -r * half],
    [r / 2, -r * half],
  ]);
}

/** The part of that hexagon below level, 0 to 1 of its height: a glass filled so far. */
export function filled(r: number, level: number) {
  const h = r * half;
  const top = h - 2 * h * Math.min(1, Math.max(0, level));
  const wide = r - (Math.abs(top) / h) * (r / 2);
  const corners: [number, number][] = [
    [-r / 2, h],
    [r / 2, h],
  ];
  if (top < 0) corners.push([r, 0]);
  corners.push([wide, top], [-wide, top]);
  if (top < 0) corners.push([-r, 0]);
  return points(corners);
}

function points(list: [number, number][]) {
  return list.map(([x, y]) => `${round(x)},${round(y)}`).join(" ");
}

export function round(x: number) {
  return Math.round(x * 1000) / 1000;
}
