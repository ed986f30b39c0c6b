// A horizon as somebody types it: pairs of direction and height, degrees.
export type HorizonPoint = { azimuth_deg: number; height_deg: number };

/** The points of "90 4, 140 12"; null where it is none, nothing for nothing. */
export function horizonOf(typed: string): HorizonPoint[] | null {
  const told: HorizonPoint[] = [];
  for (const pair of typed.split(/[,;]/).map((one) => one.trim())) {
    if (!pair) continue;
    const [azimuth_deg, height_deg, more] = pair.split(/[\s/]+/).map(Number);
    if (azimuth_deg === undefined || height_deg === undefined || more !== undefined) return null;
    if (!(azimuth_deg >= 0 && azimuth_deg <= 360 && height_deg >= -5 && height_deg <= 90)) return null;
    told.push({ azimuth_deg, height_deg });
  }
  return told;
}

/** The same points as they are typed, by direction. */
export const horizonText = (points: readonly HorizonPoint[]) =>
  [...points]
    .sort((a, b) => a.azimuth_deg - b.azimuth_deg)
    .map((one) => `${one.azimuth_deg} ${one.height_deg}`)
    .join(", ");
