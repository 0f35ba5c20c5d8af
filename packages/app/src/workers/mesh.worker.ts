import {
  centreLine,
  cutPieces,
  makeOneMesh,
  inspectMesh,
  meshHash,
  offsetMesh,
  parts as partsOf,
  placeBy,
  splitOff,
  contactShapeBody,
  STILL,
  type ColliderBody,
  type CutPiece,
  type Mesh,
  type MeshReport,
  type Pattern,
  type Pose,
  type Rod,
  type ContactShape,
} from '@lumbra/core';
import {
  dracoAt,
  findings,
  likelyUnit,
  prepareMesh,
  readMeshFile,
  readSvg,
  type Finding,
  type MeshFile,
  type PrepareOptions,
  type SvgOutlines,
} from '@lumbra/core/import';
import * as Comlink from 'comlink';
import dracoWasm from 'draco3dgltf/draco_decoder_gltf.wasm?url';

// Reads, mends and makes meshes off the page's thread.

/** What the import dialogue shows of a file; the meshes themselves stay here until they are taken. */
export interface ImportSummary {
  format: MeshFile['format'];
  measured: boolean;
  clips: string[];
  notes: string[];
  unit: 'm' | 'cm' | 'mm';
  parts: { name: string; report: MeshReport; findings: Finding[]; clips: string[] }[];
}

export interface MadeMesh {
  mesh: Mesh;
  /** Computed here: hashing a large mesh would hold up the page. */
  hash: string;
}

export interface ImportedMesh extends MadeMesh {
  name: string;
  center: [number, number, number];
}

/** The decoder of Draco, whose WebAssembly ships with the app. */
const startDraco = dracoAt(dracoWasm);

let open: MeshFile | null = null;
/** How often a file was asked for: one whose reading was given up may end after the next one's. */
let asked = 0;

/** A rod, and the thing that it is of. */
export interface FoundRod extends Rod {
  thing: string;
}

/** A rod is looked at in so many places. */
const ROD_PLACES = 65;

const worker = {
  /** Reads a file; the others are those that it may name; sequences have so many frames a second. Throws with a message for the artist. */
  async read(file: File, others: File[], rate: number): Promise<ImportSummary> {
    open = null;
    const request = ++asked;
    const bytes = async (from: File) => new Uint8Array(await from.arrayBuffer());
    const named = new Map<string, Uint8Array>();
    for (const other of others) named.set(other.name, await bytes(other));
    const read = await readMeshFile(file.name, await bytes(file), named, startDraco, rate);
    if (request === asked) open = read;
    const parts = read.parts.map(({ name, mesh }) => {
      const report = inspectMesh(mesh);
      return { name, report, findings: findings(report), clips: mesh.motion?.clips.map((clip) => clip.name) ?? [] };
    });
    const largest = Math.max(...parts.flatMap(({ report }) => report.size));
    const { format, measured, clips, notes } = read;
    return { format, measured, clips, notes, unit: measured ? 'm' : likelyUnit(largest).name, parts };
  },

  /** The meshes of the file that was read last, ready for the stage; with a name all as one mesh. */
  take(options: PrepareOptions, together: string | null): ImportedMesh[] {
    const prepared = open!.parts.map(({ name, mesh }) => ({ name, ...prepareMesh(mesh, options) }));
    const parts = together === null ? prepared : [asOne(prepared, together)];
    const made = parts.map((part) => ({ ...part, hash: meshHash(part.mesh) }));
    open = null;
    return handedOver(made);
  },

  /** A copy of a mesh's surface, so many metres outside. */
  offset(mesh: Mesh, distance: number): MadeMesh {
    return handedOver([hashed(offsetMesh(mesh, distance))])[0]!;
  },

  /** Meshes at their places as one. */
  makeOneMesh(parts: { mesh: Mesh; pose: Pose }[]): MadeMesh {
    return handedOver([hashed(makeOneMesh(parts.map(({ mesh, pose }) => placeBy(mesh, pose))))])[0]!;
  },

  /** The rods among the parts of things, whose meshes are in the world: what is long and thin with two ends. */
  rodsOf(things: { id: string; mesh: Mesh }[]): FoundRod[] {
    return things.flatMap(({ id, mesh }) =>
      partsOf(mesh).flatMap((part) => {
        const line = centreLine(part, ROD_PLACES);
        return line ? [{ ...line, thing: id }] : [];
      }),
    );
  },

  /** Splits faces off a mesh. */
  splitOff(mesh: Mesh, faces: number[], options: { divided: number; closed: boolean; room: number }) {
    const { piece, rest, border } = splitOff(mesh, faces, options);
    return { piece: hashed(piece), rest: rest && hashed(rest), border };
  },

  /** Cuts pieces of a pattern, each with what to remember it by. */
  cutPieces(pattern: Pattern, ids: string[]): [key: string, cut: CutPiece][] {
    return cutPieces(pattern, ids);
  },

  /** The closed outlines of a drawing. Throws with a message for the artist. */
  readSvg(text: string): SvgOutlines {
    return readSvg(text);
  },

  /** The simple shape that stands in for a mesh. */
  contactShape(mesh: Mesh, contactShape: ContactShape): ColliderBody {
    return contactShapeBody(mesh, contactShape);
  },
};

export type MeshWorker = typeof worker;

const hashed = (mesh: Mesh): MadeMesh => ({ mesh, hash: meshHash(mesh) });

/** Meshes that go to the page without a copy. */
function handedOver<M extends { mesh: Mesh }>(made: M[]): M[] {
  const buffers = made.flatMap(({ mesh }) => [mesh.positions.buffer, mesh.triangles.buffer] as ArrayBuffer[]);
  return Comlink.transfer(made, [...new Set(buffers)]);
}

/** All parts as one mesh, around the first one's foot. */
function asOne(parts: Omit<ImportedMesh, 'hash'>[], name: string): Omit<ImportedMesh, 'hash'> {
  const [x, y, z] = parts[0]!.center;
  const meshes = parts.map(({ mesh, center }) =>
    placeBy(mesh, { ...STILL, center: [center[0] - x, center[1] - y, center[2] - z] }),
  );
  return { name, mesh: makeOneMesh(meshes), center: [x, y, z] };
}

Comlink.expose(worker);
