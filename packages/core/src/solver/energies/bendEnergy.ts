import type { BendElements } from '../constraints/bendElements';

/** How stiff an element is that is flat at rest, in N/m: the shares that it has of the stiffness of its edges. */
export function elementStiffness({ edges, shares }: BendElements, element: number, ofEdges: ArrayLike<number>): number {
  let own = 0;
  for (let n = element * 2; n < element * 2 + 2; n++) {
    const edge = edges[n]!;
    if (edge >= 0) own += shares[n]! * ofEdges[edge]!;
  }
  return own;
}

/**
 * The energy in J that is in the bending of what is flat at rest: of each element ½ stiffness |s|², where s is its bend vector (Bergou et al. 2006, "A Quadratic
 * Bending Model for Inextensible Surfaces"). `ofEdges` is the stiffness of all edges (`relaxedHingeWeights`). Positions are `stride` numbers a point, x y z first.
 */
export function bendEnergy(
  positions: ArrayLike<number>,
  stride: number,
  elements: BendElements,
  ofEdges: ArrayLike<number>,
): number {
  let sum = 0;
  for (let i = 0; i < elements.count; i++) {
    let square = 0;
    for (let axis = 0; axis < 3; axis++) {
      let s = 0;
      for (let corner = i * 4; corner < i * 4 + 4; corner++) {
        s += elements.vectors[corner]! * positions[elements.points[corner]! * stride + axis]!;
      }
      square += s * s;
    }
    sum += (elementStiffness(elements, i, ofEdges) / 2) * square;
  }
  return sum;
}
