import { combineMeshes, inspectMesh, meshHash, placeBy, STILL, type Mesh, type MeshReport } from '@lumbra/core';
import {
  findings,
  likelyUnit,
  prepareMesh,
  readMeshFile,
  type Finding,
  type MeshFile,
  type PrepareOptions,
} from '@lumbra/core/import';
import * as Comlink from 'comlink';

// Reads and mends meshes off the page's thread.

/** What the import dialogue shows of a file; the meshes themselves stay here until they are taken. */
export interface ImportSummary {
  format: MeshFile['format'];
  measured: boolean;
  clips: string[];
  notes: string[];
  unit: 'm' | 'cm' | 'mm';
  parts: { name: string; report: MeshReport; findings: Finding[]; clips: string[] }[];
}

export interface ImportedMesh {
  name: string;
  mesh: Mesh;
  /** Computed here: hashing a large mesh would hold up the page. */
  hash: string;
  center: [number, number, number];
}

let open: MeshFile | null = null;

const worker = {
  /** Reads a file; the others are those that it may name. Throws with a message for the artist. */
  async read(file: File, others: File[]): Promise<ImportSummary> {
    open = null;
    const bytes = async (from: File) => new Uint8Array(await from.arrayBuffer());
    const named = new Map<string, Uint8Array>();
    for (const other of others) named.set(other.name, await bytes(other));
    const read = await readMeshFile(file.name, await bytes(file), named);
    open = read;
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
    const buffers = made.flatMap(({ mesh }) => [mesh.positions.buffer, mesh.triangles.buffer] as ArrayBuffer[]);
    return Comlink.transfer(made, [...new Set(buffers)]);
  },
};

/** All parts as one mesh, around the first one's foot. */
function asOne(parts: Omit<ImportedMesh, 'hash'>[], name: string): Omit<ImportedMesh, 'hash'> {
  const [x, y, z] = parts[0]!.center;
  const meshes = parts.map(({ mesh, center }) =>
    placeBy(mesh, { ...STILL, center: [center[0] - x, center[1] - y, center[2] - z] }),
  );
  return { name, mesh: combineMeshes(meshes), center: [x, y, z] };
}

export type ImportWorker = typeof worker;

Comlink.expose(worker);
