import { activeCloths, bakeReport, shapeMesh, type GlbObject } from '@lumbra/core';
import { ref } from 'vue';
import { download } from '../../screens/download';
import { useDocumentStore } from '../../stores/document';
import { errorText, useNoticeStore } from '../../stores/notice';
import { useRunStore } from '../../stores/run';
import { writeWorker } from '../../workers/writeClient';

/** Writing files: each act says what it wrote, or what went wrong. */
export function useHandOff() {
  const document = useDocumentStore();
  const run = useRunStore();
  const notice = useNoticeStore();
  const working = ref<string | null>(null);

  function stem(): string {
    const shot = document.shot!;
    return (shot.code || shot.name).replace(/[^\w-]+/g, '_');
  }

  function cloths() {
    return activeCloths(document.shot!).map((cloth) => ({
      id: cloth.id,
      name: cloth.name,
      colour: cloth.print.colour,
      mesh: shapeMesh(cloth.shape, document.assets),
    }));
  }

  /** Baked frames in order; staleness is the artist's choice, but is said. */
  function baked() {
    const frames = [...run.frames.values()].sort((a, b) => a.frame - b.frame);
    return frames.filter(({ positions }) =>
      positions.every((values, i) => values.length === cloths()[i]?.mesh.positions.length),
    );
  }

  async function write(name: string, work: () => Promise<{ data: Uint8Array | string; type: string }>): Promise<void> {
    working.value = name;
    try {
      const { data, type } = await work();
      download(name, data, type);
      notice.say(`${name} is written.`);
    } catch (error) {
      notice.problem(`${name} was not written. ${errorText(error)}`);
    } finally {
      working.value = null;
    }
  }

  const glbSequence = () =>
    write(`${stem()}.glb`, async () => {
      const frames = baked();
      const objects: GlbObject[] = cloths().map((cloth, i) => ({
        ...cloth,
        frames: frames.map(({ positions }) => positions[i]!),
      }));
      return { data: await writeWorker().glb(objects, document.shot!.frameRate), type: 'model/gltf-binary' };
    });

  const objSequence = () =>
    write(`${stem()}-obj.zip`, async () => {
      const frames = baked().map(({ frame, positions }) => ({ frame, positions }));
      const data = await writeWorker().objSequence(cloths(), frames);
      return { data, type: 'application/zip' };
    });

  /** The cloth as it is seen now. */
  function shownObjects() {
    const positions = run.shownPositions();
    return cloths().map((cloth) => ({ ...cloth, mesh: { ...cloth.mesh, positions: positions.get(cloth.id)! } }));
  }

  const objFrame = () =>
    write(`${stem()}-${String(run.frame).padStart(4, '0')}.obj`, async () => ({
      data: await writeWorker().obj(shownObjects()),
      type: 'model/obj',
    }));

  const glbFrame = () =>
    write(`${stem()}-${String(run.frame).padStart(4, '0')}.glb`, async () => ({
      data: await writeWorker().glb(shownObjects(), document.shot!.frameRate),
      type: 'model/gltf-binary',
    }));

  const shotFile = () =>
    write(`${stem()}.lumbra`, async () => ({
      data: await writeWorker().shotFile(document.shot!, document.currentAssets()),
      type: 'application/zip',
    }));

  const report = () =>
    write(`${stem()}-report.json`, async () => {
      const { substeps, inputsHash, frames } = run.bake!;
      const data = JSON.stringify(bakeReport(document.shot!, substeps, inputsHash, frames), null, 2);
      return { data, type: 'application/json' };
    });

  return { working, glbSequence, objSequence, objFrame, glbFrame, shotFile, report };
}
