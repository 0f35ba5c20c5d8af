import { driverPassed } from './driverPassed';

/**
 * What was just drawn on a canvas. Reading a canvas in the usual way makes the page wait for all that the driver was given; this asks for a
 * copy, and the page goes on until it is there. To be called in the task that drew. Null where the driver was lost.
 */
export async function readPicture(gl: WebGL2RenderingContext): Promise<ImageBitmap | null> {
  const { drawingBufferWidth: wide, drawingBufferHeight: high } = gl;
  const buffer = gl.createBuffer();
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
  gl.bufferData(gl.PIXEL_PACK_BUFFER, wide * high * 4, gl.STREAM_READ);
  gl.readPixels(0, 0, wide, high, gl.RGBA, gl.UNSIGNED_BYTE, 0);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
  try {
    // What else is drawn in this turn is waited for too: reading would make the page wait for it.
    await Promise.resolve();
    if (!(await driverPassed(gl))) return null;
    const pixels = new ImageData(wide, high);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
    gl.getBufferSubData(gl.PIXEL_PACK_BUFFER, 0, pixels.data);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
    // The rows of a picture from the driver begin at the bottom.
    return await createImageBitmap(pixels, { imageOrientation: 'flipY' });
  } finally {
    gl.deleteBuffer(buffer);
  }
}
