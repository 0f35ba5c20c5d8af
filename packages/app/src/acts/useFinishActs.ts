import {
  bounds,
  createScenery,
  FINISH_STEPS,
  finishEntrySchema,
  finishNumber,
  setLatticeCounts,
  type Counts,
  freeName,
  newId,
  type Cloth,
  type FinishEntry,
  type FinishKind,
  type Mesh,
  type Shot,
} from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useNoticeStore } from '../stores/notice';
import { useSelectionStore } from '../stores/selection';

type Lattice = Extract<FinishEntry['step'], { kind: 'lattice' }>;

/** The acts of the Finish station; each is one undoable edit. */
export function useFinishActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();

  const listIn = (draft: Shot, cloth: Cloth): Cloth | undefined => {
    const found = draft.things.find(({ id }) => id === cloth.id);
    return found?.role === 'cloth' ? found : undefined;
  };
  const labelOf = ({ step }: FinishEntry) => FINISH_STEPS[step.kind].label;

  function edit(label: string, cloth: Cloth, recipe: (found: Cloth) => void): boolean {
    return document.edit(label, (draft) => {
      const found = listIn(draft, cloth);
      if (found) recipe(found);
    });
  }

  /** Adds a step at the end of a cloth's list; how the cloth lies, finished so far, is what it may begin with. */
  function add(cloth: Cloth, kind: FinishKind, lying?: { positions: Float32Array; triangles: Uint32Array }): string {
    const begun = lying && FINISH_STEPS[kind].begin?.(lying.positions, lying.triangles);
    const entry = finishEntrySchema.parse({ id: newId(), step: { ...begun, kind } });
    edit(`${FINISH_STEPS[kind].label} ${cloth.name}`, cloth, (found) => void found.finish.push(entry));
    return entry.id;
  }

  function turn(cloth: Cloth, entry: FinishEntry, on: boolean): void {
    edit(`${labelOf(entry)} ${on ? 'on' : 'off'}`, cloth, (found) => {
      const own = found.finish.find(({ id }) => id === entry.id);
      if (own) own.on = on;
    });
  }

  /** Takes a step away, with its keys. */
  function remove(cloth: Cloth, entry: FinishEntry): void {
    edit(`Delete ${labelOf(entry).toLowerCase()}`, cloth, (found) => {
      found.finish = found.finish.filter(({ id }) => id !== entry.id);
      found.keys = found.keys.filter(({ number }) => !number.startsWith(`finish:${entry.id}.`));
    });
  }

  /** Takes a step to another place of the list. */
  function move(cloth: Cloth, entry: FinishEntry, to: number): void {
    const from = cloth.finish.findIndex(({ id }) => id === entry.id);
    if (from < 0 || to === from || to < 0 || to >= cloth.finish.length) return;
    edit(`Move ${labelOf(entry).toLowerCase()} ${to < from ? 'up' : 'down'}`, cloth, (found) => {
      const [own] = found.finish.splice(from, 1);
      if (own) found.finish.splice(to, 0, own);
    });
  }

  /** Changes what is no number of a step: ticks, choices, its mask. */
  function change(cloth: Cloth, entry: FinishEntry, label: string, recipe: (own: FinishEntry) => void): void {
    edit(`${labelOf(entry)}, ${label}`, cloth, (found) => {
      const own = found.finish.find(({ id }) => id === entry.id);
      if (own) recipe(own);
    });
  }

  /** Chooses the thing that a step is about; one that is shown as the cloth is hidden where it stands. */
  function chooseThing(cloth: Cloth, entry: FinishEntry, name: string, thing: string): void {
    document.edit(`${labelOf(entry)}, ${name}`, (draft) => {
      const own = listIn(draft, cloth)?.finish.find(({ id }) => id === entry.id);
      if (!own) return;
      Object.assign(own.step, { [name]: thing || null });
      const chosen = draft.things.find(({ id }) => id === thing);
      if (chosen && FINISH_STEPS[entry.step.kind].standsIn) chosen.visible = false;
    });
  }

  /** Changes a lattice of a cloth's list, with the keys of the cloth. */
  function editLattice(
    label: string,
    cloth: Cloth,
    { id }: FinishEntry,
    recipe: (step: Lattice, found: Cloth) => void,
  ): void {
    edit(label, cloth, (found) => {
      const step = found.finish.find((own) => own.id === id)?.step;
      if (step?.kind === 'lattice') recipe(step, found);
    });
  }

  const latticeCounts = (cloth: Cloth, entry: FinishEntry, counts: Counts) =>
    editLattice(`Lattice, ${counts.join(' × ')} points`, cloth, entry, (step, found) => {
      found.keys = setLatticeCounts(step, entry.id, found.keys, counts);
    });

  /** Puts all points of a lattice back to where they stood, and takes their keys away. */
  const resetLattice = (cloth: Cloth, entry: FinishEntry) =>
    editLattice('Put the points back', cloth, entry, (step, found) => {
      step.points = step.points.map(() => 0);
      found.keys = found.keys.filter(({ number }) => !number.startsWith(finishNumber(entry.id, 'points.')));
    });

  /** Puts the box of a lattice around a cloth as it lies: its keys too are those of a box that was elsewhere. */
  const fitLattice = (cloth: Cloth, entry: FinishEntry, positions: Float32Array, triangles: Uint32Array) =>
    editLattice('Fit the box', cloth, entry, (step, found) => {
      const begun = FINISH_STEPS.lattice.begin!(positions, triangles);
      Object.assign(step, begun);
      const numbers = new Set(Object.keys(begun).map((name) => finishNumber(entry.id, name)));
      found.keys = found.keys.filter(({ number }) => !numbers.has(number));
    });

  /** The cloth as it is shown becomes a thing of its own, with the shot's axes as its own. */
  function keepAsMesh(cloth: Cloth, shown: { mesh: Mesh; positions: Float32Array }, frame: number): void {
    if (!document.shot || !document.writable()) return;
    const { mesh, positions } = shown;
    const box = bounds(positions);
    if (!box) return;
    // About the middle of its foot, so that it is moved and turned there.
    const [x, y, z] = [(box.low[0] + box.high[0]) / 2, box.low[1], (box.low[2] + box.high[2]) / 2];
    const kept: Mesh = {
      positions: positions.map((value, i) => value - [x, y, z][i % 3]!),
      triangles: mesh.triangles,
      ...(mesh.material && { material: mesh.material }),
    };
    const asset = document.addMesh(kept);
    const made = createScenery({
      name: freeName(document.shot, `${cloth.name}, frame ${frame}`),
      shape: { kind: 'mesh', asset },
      position: [x, y, z],
      colour: cloth.print.colour,
    });
    const done = document.edit(`Keep ${cloth.name} as a mesh`, (draft) => {
      draft.things.push(made);
      // What it was made of would lie in it.
      const own = listIn(draft, cloth);
      if (own) own.visible = false;
    });
    if (!done) return;
    selection.select(made.id);
    notice.say(`${made.name} is a thing of the shot now, and ${cloth.name} is hidden.`);
  }

  return {
    add,
    turn,
    remove,
    move,
    change,
    chooseThing,
    setLatticeCounts: latticeCounts,
    resetLattice,
    fitLattice,
    keepAsMesh,
  };
}
