/** How often the driver is asked whether it has come so far, in ms. */
const ASK = 8;

/** Waits, while the page goes on, until the driver has done all that it was given so far; false where it was lost. */
export async function driverPassed(gl: WebGL2RenderingContext): Promise<boolean> {
  const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  if (!fence) return false;
  gl.flush();
  try {
    for (;;) {
      const now = gl.clientWaitSync(fence, 0, 0);
      if (now === gl.ALREADY_SIGNALED || now === gl.CONDITION_SATISFIED) return true;
      if (now === gl.WAIT_FAILED || gl.isContextLost()) return false;
      await new Promise((resolve) => setTimeout(resolve, ASK));
    }
  } finally {
    gl.deleteSync(fence);
  }
}
