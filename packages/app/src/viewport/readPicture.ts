/** How often the driver is asked whether it has come so far, in ms. */
const ASK = 8;

/**
 * What was just drawn on a canvas, cut to the middle and scaled to a width and height in pixels, as PNG. Reading a canvas in the usual way makes
 * the page wait for all that the driver was given; this asks for a copy, and the page goes on until it is there. To be called in the
 * task that drew. Null where the driver was lost.
 */
export async function readPicture(gl: WebGL2RenderingContext, width: number, height: number): Promise<Blob | null> {
  const { drawingBufferWidth: wide, drawingBufferHeight: high } = gl;
  const buffer = gl.createBuffer();
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
  gl.bufferData(gl.PIXEL_PACK_BUFFER, wide * high * 4, gl.STREAM_READ);
  gl.readPixels(0, 0, wide, high, gl.RGBA, gl.UNSIGNED_BYTE, 0);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
  const copied = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  gl.flush();
  try {
    if (!copied || !(await passed(gl, copied))) return null;
    const pixels = new ImageData(wide, high);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
    gl.getBufferSubData(gl.PIXEL_PACK_BUFFER, 0, pixels.data);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
    return await cut(pixels, width, height);
  } finally {
    gl.deleteSync(copied);
    gl.deleteBuffer(buffer);
  }
}

async function passed(gl: WebGL2RenderingContext, fence: WebGLSync): Promise<boolean> {
  for (;;) {
    const now = gl.clientWaitSync(fence, 0, 0);
    if (now === gl.ALREADY_SIGNALED || now === gl.CONDITION_SATISFIED) return true;
    if (now === gl.WAIT_FAILED || gl.isContextLost()) return false;
    await new Promise((resolve) => setTimeout(resolve, ASK));
  }
}

async function cut(pixels: ImageData, width: number, height: number): Promise<Blob> {
  // The rows of a picture from the driver begin at the bottom.
  const whole = await createImageBitmap(pixels, { imageOrientation: 'flipY' });
  const canvas = new OffscreenCanvas(width, height);
  // It is read right away: drawn by the graphics card it would have to be fetched from there again.
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const scale = Math.max(width / whole.width, height / whole.height);
  const [w, h] = [whole.width * scale, whole.height * scale];
  context.imageSmoothingQuality = 'high';
  context.drawImage(whole, (width - w) / 2, (height - h) / 2, w, h);
  whole.close();
  return canvas.convertToBlob({ type: 'image/png' });
}
