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
    let kept = this.#kept.find((one) => areAlike(one.points, points));
    if (!kept) {
      const { count: number, listed } = count();
      kept = { points: points.slice(), found: { count: number, listed: listed.slice() } };
    }
    this.#kept = [kept, ...this.#kept.filter((one) => one !== kept)].slice(0, KEPT);
    return kept.found;
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
