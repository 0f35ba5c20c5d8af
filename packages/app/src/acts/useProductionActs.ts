import { createShot, newId, type Shot } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { renameAnywhere, withShotClosed } from '../session/renameAnywhere';
import { database, isOutOfRoom, storageProblem, type ProductionRow, type ShotRow } from '../storage/database';
import {
  addProduction,
  copyProduction,
  deleteProduction,
  eraseProduction,
  renameProduction,
  restoreProduction,
} from '../storage/productions';
import { addShot, addShots, copyShot, deleteShot, eraseShot, listShots, openShot, restoreShot } from '../storage/shots';
import { errorText, useNoticeStore } from '../stores/notice';
import { filesHost } from '../workers/hosts';
import { download } from './download';

const ALL_OF_SHOTS = [database.productions, database.shots, database.assets, database.texts];

/** A file opened twice becomes two shots; nothing that is here is written over. */
async function withOwnId(shot: Shot): Promise<Shot> {
  return (await database.shots.get(shot.id)) ? { ...shot, id: newId() } : shot;
}

interface Done {
  label: string;
  undo: () => Promise<unknown>;
}

/** Acts on productions and shots as a whole. Each can be undone while Lumbra is open. */
export const useProductionActs = defineStore('home', () => {
  const notice = useNoticeStore();
  const done = shallowRef<readonly Done[]>([]);
  const last = computed(() => done.value.at(-1) ?? null);

  /** Does something that can be undone; says what is wrong when it cannot be done. */
  async function act<T>(label: string, doIt: () => Promise<T>, undo: (made: T) => Promise<unknown>): Promise<T | null> {
    try {
      const made = await doIt();
      done.value = [...done.value, { label, undo: () => undo(made) }];
      return made;
    } catch (error) {
      // What Lumbra itself refuses says why.
      notice.problem(isOutOfRoom(error) ? storageProblem(error) : errorText(error));
      return null;
    }
  }

  async function undo(): Promise<void> {
    const latest = done.value.at(-1);
    if (!latest) return;
    done.value = done.value.slice(0, -1);
    try {
      await latest.undo();
    } catch (error) {
      notice.problem(storageProblem(error));
    }
  }

  const newProduction = () =>
    act(
      'New production',
      () => addProduction('New production'),
      ({ id }) => eraseProduction(id),
    );

  const duplicateProduction = (row: ProductionRow) =>
    act(
      `Duplicate ${row.name}`,
      () => copyProduction(row),
      ({ id }) => eraseProduction(id),
    );

  const nameProduction = (row: ProductionRow, name: string) =>
    act(
      `Rename ${row.name}`,
      () => renameProduction(row.id, name),
      () => renameProduction(row.id, row.name),
    );

  const removeProduction = (row: ProductionRow) =>
    act(
      `Delete ${row.name}`,
      () => deleteProduction(row.id),
      () => restoreProduction(row.id),
    );

  /** A new, empty shot at the end of a production. */
  const newShot = (production: string, count: number) =>
    act(
      'New shot',
      async () => {
        const shot = createShot({ name: `Shot ${count + 1}` });
        await addShot(production, shot, new Map());
        return shot.id;
      },
      (id) => deleteShot(id),
    );

  const duplicateShot = (row: ShotRow) =>
    act(
      `Duplicate ${row.shot.name}`,
      async () => (await copyShot(row.id, row.production, (name) => `${name}, copy`.slice(0, 120)))!,
      (id) => eraseShot(id),
    );

  const nameShot = ({ id, shot }: ShotRow, name: string, code: string) =>
    act(
      `Rename ${shot.name}`,
      () => renameAnywhere(id, { name, code }),
      () => renameAnywhere(id, shot),
    );

  const removeShot = (row: ShotRow) =>
    act(
      `Delete ${row.shot.name}`,
      () => withShotClosed(row.id, () => deleteShot(row.id)),
      () => restoreShot(row.id),
    );

  async function bringBack(row: ProductionRow | ShotRow): Promise<void> {
    if ('shot' in row)
      await act(
        `Bring back ${row.shot.name}`,
        () => restoreShot(row.id),
        () => deleteShot(row.id),
      );
    else
      await act(
        `Bring back ${row.name}`,
        () => restoreProduction(row.id),
        () => deleteProduction(row.id),
      );
  }

  /**
   * Adds the shots of a file to a production, all of them or none; a production file becomes a production of its own. Returns where they
   * are, and the shot where it is only one.
   */
  async function openFile(
    file: File,
    into: () => Promise<string>,
  ): Promise<{ production: string; shot: string | null } | null> {
    try {
      const { production, shots } = await filesHost.call((api) => api.readShots(file));
      const fresh = await Promise.all(shots.map(async ({ shot, assets }) => ({ shot: await withOwnId(shot), assets })));
      const target = production ? newId() : await into();
      await database.transaction('rw', ALL_OF_SHOTS, async () => {
        if (production) await database.productions.add({ id: target, name: production.name, note: production.note });
        await addShots(target, fresh);
      });
      notice.say(
        production
          ? `${production.name} is opened with ${shots.length} shots.`
          : `${file.name} is opened as “${fresh[0]!.shot.name}”.`,
      );
      return { production: target, shot: production ? null : fresh[0]!.shot.id };
    } catch (error) {
      const reason = isOutOfRoom(error) ? storageProblem(error) : errorText(error);
      notice.problem(`${file.name} was not opened; nothing was changed. ${reason}`);
      return null;
    }
  }

  async function saveShotFile(row: ShotRow): Promise<void> {
    try {
      const opened = (await openShot(row.id))!;
      const bytes = await filesHost.call((api) => api.shotFile(opened.shot, opened.assets));
      download(`${row.shot.code || row.shot.name}.lumbra`, bytes, 'application/zip');
    } catch (error) {
      notice.problem(`The file was not written. ${errorText(error)}`);
    }
  }

  async function saveProductionFile(row: ProductionRow): Promise<void> {
    try {
      const shots = await Promise.all((await listShots(row.id)).map(async ({ id }) => (await openShot(id))!));
      const bytes = await filesHost.call((api) =>
        api.productionFile(
          { name: row.name, note: row.note },
          shots.map(({ shot, assets }) => ({ shot, assets })),
        ),
      );
      download(`${row.name}.lumbra`, bytes, 'application/zip');
    } catch (error) {
      notice.problem(`The file was not written. ${errorText(error)}`);
    }
  }

  return {
    last,
    undo,
    newProduction,
    duplicateProduction,
    nameProduction,
    removeProduction,
    newShot,
    duplicateShot,
    nameShot,
    removeShot,
    bringBack,
    openFile,
    saveShotFile,
    saveProductionFile,
  };
});
