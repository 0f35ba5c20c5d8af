import { FinishList } from '../finish/finishCloth';
import type { Mesh } from '../mesh/mesh';
import { finishGiven, finishThings } from '../run/finishGiven';
import { thingMeshAt } from '../run/thingMeshAt';
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

/** What is handed over of a shot. */
export interface FinishOptions {
  /** The shot that the cloth is in, with the meshes of its things: steps may ask for them. */
  shot: Shot;
  assets: Assets;
  /** Whether finish lists are done, else cloth is as it was simulated. */
  finished: boolean;
  /** Whether the other things that are shown go along, after the cloth: colliders, what wears it, and scenery. */
  withThings?: boolean;
}

/**
 * Cloth, and what goes along with it, as it is handed over.
 * @throws RangeError with a sentence for the artist where a step cannot be done
 */
export function finishTake(
  simulated: readonly SimulatedCloth[],
  { shot, assets, finished, withThings = false }: FinishOptions,
): FinishedTake {
  const lists = simulated.map(({ cloth, mesh }) =>
    finished ? new FinishList(mesh, cloth.finish, finishGiven(shot, cloth, assets)) : new FinishList(mesh, []),
  );
  const things = shot.things.flatMap((thing) => {
    return withThings && 'shape' in thing && thing.role !== 'cloth' && thing.visible ? [thing] : [];
  });
  const meshes = things.map((thing) => thingMeshAt(shot, thing, assets, shot.firstFrame));
  const finish = ({ frame, positions }: HandedFrame): HandedFrame => ({
    frame,
    positions: [
      ...positions.map((own, i) => {
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
      ...things.map((thing) => thingMeshAt(shot, thing, assets, frame).positions),
    ],
  });
  return {
    finish,
    frames: async function* (frames) {
      for await (const frame of finished ? retimeTake(simulated, shot.firstFrame, frames) : frames) yield finish(frame);
    },
    cloths: [
      ...simulated.map(({ cloth: { id, name, print } }, i) => ({
        ...{ id, name, colour: print.colour, print, mesh: lists[i]!.mesh },
      })),
      ...things.map((thing, i) => ({
        id: thing.id,
        name: thing.name,
        colour: thing.colour,
        mesh: asShown(meshes[i]!),
      })),
    ],
  };
}

/** What is handed over of a mesh: where it is said in every frame, so that its own motion says nothing more. */
function asShown({ positions, triangles }: Mesh): Mesh {
  return { positions, triangles };
}
