/** How often the driver is asked whether it has come so far, in ms. */
const ASK = 8;

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
  const copied = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  gl.flush();
  try {
    if (!copied || !(await passed(gl, copied))) return null;
    const pixels = new ImageData(wide, high);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
    gl.getBufferSubData(gl.PIXEL_PACK_BUFFER, 0, pixels.data);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
    // The rows of a picture from the driver begin at the bottom.
    return await createImageBitmap(pixels, { imageOrientation: 'flipY' });
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
