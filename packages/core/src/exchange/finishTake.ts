import { FinishList } from '../finish/finishCloth';
import type { Mesh } from '../mesh/mesh';
import { finishAt, finishMasks } from '../shot/finishAt';
import type { Cloth } from '../shot/schema';
import type { HandedCloth, HandedFrame } from './formats/format';

/** A cloth of a shot and the mesh that is simulated of it. */
export interface SimulatedCloth {
  cloth: Cloth;
  mesh: Mesh;
}

/** How cloth is handed over: its mesh, and its frames as they come. */
export interface FinishedTake {
  cloths: HandedCloth[];
  finish: (frame: HandedFrame) => HandedFrame;
}

/**
 * Cloth after its finish list, or with `finished` false as it was simulated.
 * @throws RangeError with a sentence for the artist where a step cannot be done
 */
export function finishTake(simulated: readonly SimulatedCloth[], finished: boolean): FinishedTake {
  const lists = simulated.map(({ cloth, mesh }) => new FinishList(mesh, finished ? cloth.finish : []));
  return {
    cloths: simulated.map(({ cloth: { id, name, print } }, i) => ({
      ...{ id, name, colour: print.colour, mesh: lists[i]!.mesh },
    })),
    finish: ({ frame, positions }) => ({
      frame,
      positions: positions.map((own, i) => {
        const { cloth, mesh } = simulated[i]!;
        if (!finished || cloth.finish.length === 0) return own;
        const masks = finishMasks(cloth, mesh, frame);
        return lists[i]!.place(own, finishAt(cloth, frame), (id) => masks.get(id) ?? null);
      }),
    }),
  };
}
