import { clothLayer } from '../usd/clothLayer';
import type { UsdLayer, UsdSample } from '../usd/layer';
import { gathered, MemoryFiles, writeWhole, type FileStream } from './fileSink';
import type { CacheFormat } from './format';

/** A form of Universal Scene Description: `write` is how a layer is written in it. */
export function usdFormat(
  format: Pick<CacheFormat, 'id' | 'label' | 'note' | 'type'>,
  write: (layer: UsdLayer, samples: AsyncIterable<UsdSample>, stream: FileStream) => Promise<void>,
): CacheFormat {
  return {
    ...format,
    oneFile: true,
    writeFrame: async (take, frame) => {
      const frames = (async function* () {
        yield await Promise.resolve(frame);
      })();
      // One file of one frame has no pictures beside it: cloth has its colour.
      const cloths = take.cloths.map((cloth) => ({ ...cloth, print: undefined }));
      const { layer, samples } = clothLayer({ ...take, cloths, frames });
      const files = new MemoryFiles();
      await write(layer, samples, gathered(files.open('frame')));
      return files.bytes('frame');
    },
    write: async (take, sink) => {
      const { layer, pictures, samples } = clothLayer(take);
      await write(layer, samples, gathered(await sink.open(`${take.stem}.${format.id}`)));
      for (const { path, bytes } of pictures) await writeWhole(sink, path, bytes);
    },
  };
}
