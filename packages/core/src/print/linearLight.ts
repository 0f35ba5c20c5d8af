/** Red, green and blue as light adds up, 0 to 1, of a colour as it is shown: RRGGBB with a leading #. */
export function linearLight(colour: string): [number, number, number] {
  const channel = (at: number) => {
    const shown = parseInt(colour.slice(at, at + 2), 16) / 255;
    return shown <= 0.04045 ? shown / 12.92 : ((shown + 0.055) / 1.055) ** 2.4;
  };
  return [channel(1), channel(3), channel(5)];
}
