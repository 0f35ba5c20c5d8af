import { activeCloths, shapeMesh, type Cloth, type Given } from '@lumbra/core';
import { ref } from 'vue';
import { useDocumentStore } from '../session/document';
import type { TakeRow } from '../storage/database';
import { readAccount, takenShot } from '../storage/takes';
import { errorText, useNoticeStore } from '../stores/notice';
import { takeName, useTakesStore } from '../stores/takes';
import { bytesText } from '../takes/words';
import { framesHost } from '../workers/hosts';

/** More than this of one cloth's motion, in bytes, a document is too heavy with. */
const MOST_BYTES = 400e6;

/** The acts that give a cloth its motion, or let it be simulated again; each is one undoable edit. */
export function useGivenActs() {
  const document = useDocumentStore();
  const takes = useTakesStore();
  const notice = useNoticeStore();
  /** A take is being read. */
  const reading = ref(false);

  function give(cloth: Cloth, label: string, given: Given | null): boolean {
    return document.edit(`${cloth.name}, ${label}`, (draft) => {
      const found = draft.things.find(({ id }) => id === cloth.id);
      if (found?.role === 'cloth') found.given = given;
    });
  }

  const simulate = (cloth: Cloth): boolean => give(cloth, 'simulated', null);

  const followAnimation = (cloth: Cloth): boolean =>
    give(cloth, 'follows its animation', { asset: null, start: 1, from: 'Its animation' });

  /** Lets a cloth go where a take had it: its frames are kept in the shot, so that it does not matter what becomes of the take. */
  async function followTake(cloth: Cloth, take: TakeRow): Promise<void> {
    if (reading.value || !document.writable()) return;
    const visit = document.visitNow();
    const name = takeName(take);
    reading.value = true;
    try {
      if (takes.take?.id === take.id && takes.unkept.length > 0) await takes.keepAgain();
      const [shot, account] = [await takenShot(take), await readAccount(take)];
      const index = shot ? activeCloths(shot).findIndex(({ id }) => id === cloth.id) : -1;
      if (!shot || index < 0) return notice.remark(`${cloth.name} is not in ${name}: nothing was changed.`);
      const { positions, triangles } = shapeMesh(cloth.shape, document.assets);
      const frames = account.map(({ frame, stats: { fingerprint } }) => ({ frame, fingerprint }));
      const bytes = frames.length * positions.byteLength;
      if (bytes > MOST_BYTES) return notice.remark(tooHeavy(cloth, name, bytes));
      const { frameRate } = shot;
      const read = await framesHost.call((api) =>
        api.motion(take.id, index, frames, { mesh: { positions, triangles }, frameRate }),
      );
      if (document.visitNow() !== visit) return;
      if (!read)
        return notice.problem(
          `${cloth.name} cannot follow ${name}: it was cut otherwise then, or nothing of the take can be read back. Take the shot up as it was then, or bake again.`,
        );
      const { id, mesh, start, lost } = read;
      document.addAsset(id, mesh);
      if (!give(cloth, `follows ${name}`, { asset: id, start, from: name })) return;
      if (lost > 0)
        notice.remark(`${lost} frames of ${name} could not be read back; what lies between is filled in evenly.`);
    } catch (error) {
      notice.problem(`${cloth.name} does not follow ${name}; nothing was changed. ${errorText(error)}`);
    } finally {
      reading.value = false;
    }
  }

  return { reading, simulate, followAnimation, followTake };
}

function tooHeavy(cloth: Cloth, take: string, bytes: number): string {
  return `${cloth.name} does not follow ${take}: its motion there is ${bytesText(bytes)}, and a shot keeps at most ${bytesText(MOST_BYTES)} of a cloth. Cut the take after the frames that you need, or bake it with wider spacing.`;
}
