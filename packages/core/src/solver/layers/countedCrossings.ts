/** All crossings of cloth: how many, and of the first of them the edge's ends and the triangle's corners as byte offsets. */
export interface Crossings {
  count: number;
  listed: Uint32Array;
}

/** A frame ends where the next begins, and where it is taken again it begins where it began. */
const KEPT = 2;

/** What was counted where the points were last, so that the same places are not gone through twice. */
export class CountedCrossings {
  #kept: { points: Float32Array; found: Crossings }[] = [];

  /** What `count` finds where the points are (x y z and one number more each), or found when they were there before. */
  at(points: Float32Array, count: () => Crossings): Crossings {
    const before = this.#kept.find((kept) => areAlike(kept.points, points));
    if (before) return before.found;
    const { count: number, listed } = count();
    const found = { count: number, listed: listed.slice() };
    this.#kept = [{ points: points.slice(), found }, ...this.#kept].slice(0, KEPT);
    return found;
  }

  /** Forgets it all: cloths meet otherwise than before. */
  clear(): void {
    this.#kept = [];
  }
}

function areAlike(a: Float32Array, b: Float32Array): boolean {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return a.length === b.length;
}
