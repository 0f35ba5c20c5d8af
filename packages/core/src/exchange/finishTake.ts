import { FinishList } from '../finish/finishCloth';
import type { FinishGiven } from '../finish/finishStep';
import type { Mesh } from '../mesh/mesh';
import { finishAt, finishMasks } from '../shot/finishAt';
import type { Cloth } from '../shot/schema';
import { retimeTake } from './retimeTake';
import type { HandedCloth, HandedFrame } from './formats/format';

/** A cloth of a shot and the mesh that is simulated of it. */
export interface SimulatedCloth {
  cloth: Cloth;
  mesh: Mesh;
  /** What its finish list is given of the shot, where a step needs it. */
  given: FinishGiven | null;
}

/** How cloth is handed over: its mesh, and its frames as they come. */
export interface FinishedTake {
  cloths: HandedCloth[];
  /** One frame, whose places are given as they are before the other steps: retimed already. */
  finish: (frame: HandedFrame) => HandedFrame;
  /** All frames of the take, as they come: retimed, and finished. */
  frames: (frames: AsyncIterable<HandedFrame>) => AsyncIterable<HandedFrame>;
}

/**
 * Cloth after its finish list, or with `finished` false as it was simulated; `firstFrame` is that of the shot.
 * @throws RangeError with a sentence for the artist where a step cannot be done
 */
export function finishTake(simulated: readonly SimulatedCloth[], finished: boolean, firstFrame: number): FinishedTake {
  const lists = simulated.map(({ cloth, mesh, given }) => new FinishList(mesh, finished ? cloth.finish : [], given));
  const finish = ({ frame, positions }: HandedFrame): HandedFrame => ({
    frame,
    positions: positions.map((own, i) => {
      const { cloth, mesh } = simulated[i]!;
      if (!finished || cloth.finish.length === 0) return own;
      const masks = finishMasks(cloth, mesh, frame);
      return lists[i]!.place(own, finishAt(cloth, frame), (id) => masks.get(id) ?? null);
    }),
  });
  return {
    finish,
    frames: async function* (frames) {
      for await (const frame of finished ? retimeTake(simulated, firstFrame, frames) : frames) yield finish(frame);
    },
    cloths: simulated.map(({ cloth: { id, name, print } }, i) => ({
      ...{ id, name, colour: print.colour, mesh: lists[i]!.mesh },
    })),
  };
}
