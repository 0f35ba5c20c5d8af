import { writeWhole } from '@lumbra/core';
import type { PictureFormat } from './pictureFormat';

/** A film to look at, as the browser's own encoder makes it. */
export const webmFilm: PictureFormat = {
  id: 'webm',
  label: 'WebM film',
  type: 'video/webm',
  oneFile: true,
  works: () => typeof VideoEncoder === 'function',
  open: async (sink, { stem, width, height, frameRate }) => {
    const {
      BufferTarget,
      getFirstEncodableVideoCodec,
      Output,
      QUALITY_HIGH,
      VideoSample,
      VideoSampleSource,
      WebMOutputFormat,
    } = await import('mediabunny');
    const codec = await getFirstEncodableVideoCodec(['vp9', 'vp8', 'av1'], { width, height });
    if (!codec)
      throw new Error(`This browser cannot make films of ${width} × ${height} pixels. Choose smaller ones, or PNG.`);
    const target = new BufferTarget();
    const output = new Output({ format: new WebMOutputFormat(), target });
    const source = new VideoSampleSource({ codec, bitrate: QUALITY_HIGH });
    output.addVideoTrack(source, { frameRate });
    await output.start();
    let count = 0;
    return {
      add: async (picture) => {
        const sample = new VideoSample(picture, { timestamp: count++ / frameRate, duration: 1 / frameRate });
        await source.add(sample);
        sample.close();
        picture.close();
      },
      close: async () => {
        await output.finalize();
        await writeWhole(sink, `${stem}.webm`, new Uint8Array(target.buffer!));
      },
      abandon: async () => {
        if (output.state === 'started') await output.cancel();
      },
    };
  },
};
