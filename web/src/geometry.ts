/** Short numbers in paths. */
export const f = (v: number) => String(Math.round(v * 10) / 10);

export const polyline = (pts: [number, number][], close = false) =>
  `M${pts.map(([x, y]) => `${f(x)},${f(y)}`).join("L")}${close ? "Z" : ""}`;

/** Every "x,y" pair of a path moved by a function; paths here hold only absolute pairs. */
export const mapPath = (path: string, move: (x: number, y: number) => [number, number]) =>
  path.replace(/(-?[\d.]+),(-?[\d.]+)/g, (_, x: string, y: string) => {
    const [a, b] = move(Number(x), Number(y));
    return `${f(a)},${f(b)}`;
  });

/** Box round all pairs of a path. */
export function boxOf(path: string): { x0: number; y0: number; x1: number; y1: number } {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const m of path.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)) {
    const [x, y] = [Number(m[1]), Number(m[2])];
    [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
  }
  return { x0, y0, x1, y1 };
}

/** The middle of a path's box. */
export function middleOf(path: string): { x: number; y: number } {
  const { x0, y0, x1, y1 } = boxOf(path);
  return { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
}

/** Where on a drawing a pointer is, in the drawing's own units; null where the browser cannot say. */
export function pointAt(group: SVGGElement | null, e: { clientX: number; clientY: number }): { x: number; y: number } | null {
  const matrix = group?.getScreenCTM?.();
  if (!matrix || (e.clientX === 0 && e.clientY === 0)) return null;
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
  return { x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 };
}
