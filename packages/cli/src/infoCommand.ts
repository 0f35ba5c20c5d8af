import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { inspectMesh, makePiece, sizeOfPiece } from '@lumbra/core';
import { findings, LARGEST_MESH_FILE, readMeshFile, readSvg, tooLarge } from '@lumbra/core/import';

/** Prints as JSON what the import dialogue says of a mesh file, sizes in the file's own unit; or the outlines of an SVG drawing, in m. */
export async function infoCommand(file: string): Promise<void> {
  const found = await stat(file).catch(() => undefined);
  if (!found?.isFile()) throw new Error(`${file}: there is no such file.`);
  if (found.size > LARGEST_MESH_FILE) throw new Error(`${file}: ${tooLarge(found.size)}`);
  if (path.extname(file).toLowerCase() === '.svg') return drawingInfo(file);
  const folder = path.dirname(file);
  const bytes = new Uint8Array(await readFile(file));
  const others =
    path.extname(file).toLowerCase() === '.gltf' ? await besides(folder, bytes) : new Map<string, Uint8Array>();
  const read = await readMeshFile(path.basename(file), bytes, others).catch((error: unknown) => {
    throw new Error(`${file}: ${error instanceof Error ? error.message : String(error)}`);
  });
  const reports = read.parts.map(({ name, mesh }) => ({ name, report: inspectMesh(mesh) }));
  const info = {
    format: read.format,
    meshes: reports.map(({ name, report }) => ({
      name,
      points: report.points,
      triangles: report.triangles,
      size: report.size,
      borders: report.borders,
      nonManifoldEdges: report.nonManifoldEdges,
      duplicatePoints: report.duplicatePoints,
    })),
    clips: read.clips,
    problems: [
      ...read.notes,
      ...reports.flatMap(({ name, report }) => findings(report).map(({ text }) => `${name}: ${text}`)),
    ],
  };
  console.log(JSON.stringify(info, null, 2));
}

/** The outlines of a drawing with their sizes in m, their areas without holes in m², and what was left out. */
async function drawingInfo(file: string): Promise<void> {
  const text = await readFile(file, 'utf8');
  let read;
  try {
    read = readSvg(text);
  } catch (error) {
    throw new Error(`${file}: ${error instanceof Error ? error.message : String(error)}`);
  }
  const tidy = (value: number) => Number(value.toPrecision(6));
  const outlines = read.outlines.map(({ name, outline, holes, lines }) => {
    const { width, height, area } = sizeOfPiece(makePiece({ name: 'Piece', outline, holes }));
    return {
      name,
      width: tidy(width),
      height: tidy(height),
      area: tidy(area),
      nodes: outline.length,
      holes: holes.length,
      creases: lines.length,
    };
  });
  console.log(JSON.stringify({ format: 'svg', outlines, leftOut: read.leftOut }, null, 2));
}

/** The buffers that a glTF file names, from its own folder only. */
async function besides(folder: string, gltf: Uint8Array): Promise<Map<string, Uint8Array>> {
  const names = [...new TextDecoder().decode(gltf).matchAll(/"uri"\s*:\s*"([^":]+)"/g)].map(([, uri]) =>
    path.basename(uri!),
  );
  const found = new Map<string, Uint8Array>();
  for (const name of names) {
    const bytes = await readFile(path.join(folder, name)).catch(() => undefined);
    if (bytes) found.set(name, new Uint8Array(bytes));
  }
  return found;
}
