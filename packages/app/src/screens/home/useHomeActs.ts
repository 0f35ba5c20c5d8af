import { createShot, newId, readLumbraFile, type Shot } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { database, storageProblem, type ProductionRow, type ShotRow } from '../../storage/database';
import {
  addProduction,
  copyProduction,
  deleteProduction,
  eraseProduction,
  renameProduction,
  restoreProduction,
} from '../../storage/productions';
import {
  addShot,
  copyShot,
  deleteShot,
  eraseShot,
  listShots,
  openShot,
  renameShot,
  restoreShot,
} from '../../storage/shots';
import { errorText, useNoticeStore } from '../../stores/notice';
import { writeWorker } from '../../workers/writeClient';
import { download } from '../download';

interface Done {
  label: string;
  undo: () => Promise<unknown>;
}

/** Acts on productions and shots as a whole. Each can be undone while Lumbra is open. */
export const useHomeActs = defineStore('home', () => {
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
      notice.problem(storageProblem(error));
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
      () => renameShot(id, { name, code }),
      () => renameShot(id, shot),
    );

  const removeShot = (row: ShotRow) =>
    act(
      `Delete ${row.shot.name}`,
      () => deleteShot(row.id),
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

  /** Adds the shots of a file to a production; a production file becomes a production of its own. Returns where they are. */
  async function openFile(file: File, into: () => Promise<string>): Promise<string | null> {
    try {
      const { production, shots } = await readLumbraFile(new Uint8Array(await file.arrayBuffer()));
      const target = production ? (await addProduction(production.name, production.note)).id : await into();
      const names: string[] = [];
      for (const { shot, assets } of shots) {
        // A file opened twice becomes two shots; nothing that is here is written over.
        const fresh: Shot = (await database.shots.get(shot.id)) ? { ...shot, id: newId() } : shot;
        await addShot(target, fresh, assets);
        names.push(fresh.name);
      }
      notice.say(
        production
          ? `${production.name} is opened with ${shots.length} shots.`
          : `${file.name} is opened as “${names[0]}”.`,
      );
      return target;
    } catch (error) {
      notice.problem(`${file.name} was not opened; nothing was changed. ${errorText(error)}`);
      return null;
    }
  }

  async function saveShotFile(row: ShotRow): Promise<void> {
    try {
      const opened = (await openShot(row.id))!;
      const bytes = await writeWorker().shotFile(opened.shot, opened.assets);
      download(`${row.shot.code || row.shot.name}.lumbra`, bytes, 'application/zip');
    } catch (error) {
      notice.problem(`The file was not written. ${errorText(error)}`);
    }
  }

  async function saveProductionFile(row: ProductionRow): Promise<void> {
    try {
      const shots = await Promise.all((await listShots(row.id)).map(async ({ id }) => (await openShot(id))!));
      const bytes = await writeWorker().productionFile(
        { name: row.name, note: row.note },
        shots.map(({ shot, assets }) => ({ shot, assets })),
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
