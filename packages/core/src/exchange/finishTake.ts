import { FinishList } from '../finish/finishCloth';
import { finishGiven, finishThings } from '../run/finishGiven';
import { finishAt, finishMasks } from '../shot/finishAt';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { retimeTake } from './retimeTake';
import type { SimulatedCloth } from './simulatedCloth';
import type { HandedCloth, HandedFrame } from './formats/format';

/** How cloth is handed over: its mesh, and its frames as they come. */
export interface FinishedTake {
  cloths: HandedCloth[];
  /** One frame, whose places are given as they are before the other steps: retimed already. */
  finish: (frame: HandedFrame) => HandedFrame;
  /** All frames of the take, as they come: retimed, and finished. */
  frames: (frames: AsyncIterable<HandedFrame>) => AsyncIterable<HandedFrame>;
}

/**
 * Cloth after its finish list, or with `finished` false as it was simulated; `of` is the shot that it is in, with the
 * meshes that steps ask for.
 * @throws RangeError with a sentence for the artist where a step cannot be done
 */
export function finishTake(
  simulated: readonly SimulatedCloth[],
  finished: boolean,
  { shot, assets }: { shot: Shot; assets: Assets },
): FinishedTake {
  const lists = simulated.map(({ cloth, mesh }) =>
    finished ? new FinishList(mesh, cloth.finish, finishGiven(shot, cloth, assets)) : new FinishList(mesh, []),
  );
  const finish = ({ frame, positions }: HandedFrame): HandedFrame => ({
    frame,
    positions: positions.map((own, i) => {
      const { cloth, mesh } = simulated[i]!;
      if (!finished || cloth.finish.length === 0) return own;
      const masks = finishMasks(cloth, mesh, frame);
      return lists[i]!.place(
        own,
        finishAt(cloth, frame),
        (id) => masks.get(id) ?? null,
        finishThings(shot, cloth, assets, frame),
      );
    }),
  });
  return {
    finish,
    frames: async function* (frames) {
      for await (const frame of finished ? retimeTake(simulated, shot.firstFrame, frames) : frames) yield finish(frame);
    },
    cloths: simulated.map(({ cloth: { id, name, print } }, i) => ({
      ...{ id, name, colour: print.colour, mesh: lists[i]!.mesh },
    })),
  };
}
