/** Whether a place is inside a closed line, by how often a ray from it crosses the line. */
export function isInside(corners: readonly (readonly [number, number])[], x: number, y: number): boolean {
  let inside = false;
  corners.forEach(([ax, ay], i) => {
    const [bx, by] = corners[(i + 1) % corners.length]!;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  });
  return inside;
}
