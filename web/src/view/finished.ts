/** Ends when all that was drawn is done: `render()` returns long before a renderer in software has drawn. */
export async function finished(gl: WebGL2RenderingContext): Promise<void> {
  const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  gl.flush();
  if (!fence) return;
  while ((gl.getSyncParameter(fence, gl.SYNC_STATUS) as number) !== gl.SIGNALED) {
    if (gl.isContextLost()) break;
    await new Promise((go) => setTimeout(go, 4));
  }
  gl.deleteSync(fence);
}
