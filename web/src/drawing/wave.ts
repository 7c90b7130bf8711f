/** A wave that lies down: the path of height - sine, its swing fading along x. */
export function wavePath(from: number, to: number, step: number, height: number, period: number, swing: (x: number) => number): string {
  let d = "";
  for (let x = from; x <= to; x += step) {
    d += `${d ? "L" : "M"}${x.toFixed(1)} ${(height - swing(x) * Math.sin((x * 2 * Math.PI) / period)).toFixed(2)}`;
  }
  return d;
}

/** A swing that is gone at reach. */
export const fading = (most: number, reach: number, power: number) => (x: number) => most * Math.max(0, 1 - x / reach) ** power;
