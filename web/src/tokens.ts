// Colours as data, for drawing. The same values are CSS tokens in styles.css.
export const INK = "#22272A";
export const INK2 = "#50585B";
export const OXIDE = "#9A3A1E";
export const OXIDE_LT = "#EE9270";
export const CHALK = "#F5F2E6";
export const CHALK2 = "#B9BDB8";
export const P0 = "#EFEFEB";
export const P1 = "#E3E4E0";
export const P2 = "#D2D4CF";
export const P3 = "#AEB3AF";
export const P4 = "#7B827F";
export const GUIDE = "#262B2E";
export const GUIDE3 = "#454D50";
export const PAPER = "#F3ECDB";

const channel = (hex: string, i: number) => Number.parseInt(hex.slice(1 + 2 * i, 3 + 2 * i), 16);

/** Mixes two colours; `t` = 0 gives the first. */
export function mix(a: string, b: string, t: number): string {
  const part = (i: number) =>
    Math.round(channel(a, i) * (1 - t) + channel(b, i) * t)
      .toString(16)
      .padStart(2, "0");
  return `#${part(0)}${part(1)}${part(2)}`.toUpperCase();
}

/** Relative luminance, WCAG 2. */
export function luminance(hex: string): number {
  const linear = (i: number) => {
    const c = channel(hex, i) / 255;
    return c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(0) + 0.7152 * linear(1) + 0.0722 * linear(2);
}

/** Contrast ratio, WCAG 2. */
export function contrast(a: string, b: string): number {
  const [x, y] = [luminance(a), luminance(b)];
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
}

/** The ink that reads better on a colour. */
export const inkOn = (colour: string, light = CHALK, dark = INK) => (contrast(colour, light) >= contrast(colour, dark) ? light : dark);

/** A paint that would drown in the dark ground is lightened there. */
export const onGuide = (paint: string) => (contrast(paint, GUIDE) < 2.4 ? mix(paint, "#FFFFFF", 0.28) : paint);

/** A small seeded generator, so that hand-drawn edges are the same each time. */
export function seeded(seed: number): () => number {
  let s = (seed * 2654435761) >>> 0 || 1;
  return () => {
    s ^= s << 13;
    s >>>= 0;
    s ^= s >>> 17;
    s ^= s << 5;
    s >>>= 0;
    return s / 4294967296;
  };
}
