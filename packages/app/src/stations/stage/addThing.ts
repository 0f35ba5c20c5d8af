import {
  createCloth,
  createCollider,
  createPeg,
  newId,
  readGlb,
  readObj,
  ReadError,
  topology,
  weld,
  type Mesh,
  type Shape,
  type Shot,
} from '@lumbra/core';
import { useDocumentStore } from '../../stores/document';
import { errorText, useNoticeStore } from '../../stores/notice';
import { useSelectionStore } from '../../stores/selection';

const LARGEST_FILE = 512 * 1024 * 1024;

function freeName(shot: Shot, base: string): string {
  const names = new Set(shot.things.map(({ name }) => name));
  if (!names.has(base)) return base;
  for (let n = 2; ; n++) if (!names.has(`${base} ${n}`)) return `${base} ${n}`;
}

/** The acts that bring things to the stage. */
export function useAddThing() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();

  function add(kind: 'cloth' | 'peg' | 'box' | 'ball' | 'cylinder' | 'ring' | 'ground'): void {
    const shot = document.shot;
    if (!shot) return;
    const id = newId();
    const things: Record<typeof kind, () => Shot['things'][number]> = {
      cloth: () => createCloth({ id, name: freeName(shot, 'Sheet'), position: [0, 1, 0] }),
      peg: () => createPeg({ id, name: freeName(shot, 'Peg'), position: [0, 1, 0] }),
      box: () => solid('Box', { kind: 'box', width: 0.5, height: 0.5, depth: 0.5 }, 0.25),
      ball: () => solid('Ball', { kind: 'ball', radius: 0.25, detail: 3 }, 0.25),
      cylinder: () => solid('Cylinder', { kind: 'cylinder', radius: 0.1, height: 1, segments: 32 }, 0.5),
      ring: () => solid('Ring', { kind: 'ring', radius: 0.3, tubeRadius: 0.05, segments: 48 }, 0.05),
      ground: () =>
        createCollider({
          id,
          name: freeName(shot, 'Ground'),
          shape: { kind: 'ground' },
          friction: 0.5,
          clearance: 0.002,
        }),
    };
    function solid(name: string, shape: Shape, height: number) {
      return createCollider({ id, name: freeName(shot!, name), shape, position: [0, height, 0] });
    }
    const made = things[kind]();
    if (document.edit(`Add ${made.name}`, (draft) => void draft.things.push(made))) selection.select(id);
  }

  /** Reads an OBJ or GLB file as a collider. What was found wrong and mended is said. */
  async function importMesh(file: File): Promise<void> {
    const shot = document.shot;
    if (!shot) return;
    try {
      const read = await readMesh(file);
      const { mesh, droppedFaces } = weld(read, { tolerance: 1e-6 });
      const t = topology(mesh);
      const asset = newId();
      await document.addAsset(asset, mesh);
      const id = newId();
      const name = freeName(shot, file.name.replace(/\.\w+$/, '').slice(0, 100) || 'Mesh');
      const made = createCollider({ id, name, shape: { kind: 'mesh', asset } });
      if (!document.edit(`Import ${name}`, (draft) => void draft.things.push(made))) return;
      selection.select(id);
      const merged = (read.positions.length - mesh.positions.length) / 3;
      notice.say(
        [
          `${name}: ${mesh.positions.length / 3} points, ${mesh.triangles.length / 3} faces.`,
          merged > 0 ? `${merged} points that lay in one place were joined.` : '',
          droppedFaces > 0 ? `${droppedFaces} faces without area were left out.` : '',
          t.borderEdges > 0 ? 'It is open: cloth stays on the side where it is.' : '',
          t.nonManifoldEdges > 0 ? `${t.nonManifoldEdges} edges have more than two faces.` : '',
        ]
          .filter(Boolean)
          .join(' '),
      );
    } catch (error) {
      notice.problem(`${file.name} was not imported; nothing was changed. ${errorText(error)}`);
    }
  }

  function remove(id: string): void {
    const thing = document.shot?.things.find((candidate) => candidate.id === id);
    if (!thing) return;
    document.edit(`Delete ${thing.name}`, (draft) => {
      draft.things = draft.things.filter((candidate) => candidate.id !== id);
    });
    selection.select(null);
  }

  function duplicate(id: string): void {
    const shot = document.shot;
    const thing = shot?.things.find((candidate) => candidate.id === id);
    if (!shot || !thing) return;
    const copy = structuredClone(thing);
    copy.id = newId();
    copy.name = freeName(shot, thing.name);
    copy.position = [thing.position[0] + 0.1, thing.position[1], thing.position[2] + 0.1];
    if (document.edit(`Duplicate ${thing.name}`, (draft) => void draft.things.push(copy))) selection.select(copy.id);
  }

  return { add, importMesh, remove, duplicate };
}

async function readMesh(file: File): Promise<Mesh> {
  if (file.size === 0) throw new ReadError('The file is empty.');
  if (file.size > LARGEST_FILE) throw new ReadError(`The file is larger than ${LARGEST_FILE / 1024 / 1024} MB.`);
  const ending = file.name.toLowerCase().split('.').pop();
  if (ending === 'obj') return readObj(await file.text());
  if (ending === 'glb') return readGlb(new Uint8Array(await file.arrayBuffer()));
  throw new ReadError('Lumbra reads meshes from .obj and .glb files.');
}
