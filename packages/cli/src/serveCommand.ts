import { serve } from '@lumbra/server';

/** `lumbra serve`: serves the built app until it is stopped. */
export async function serveCommand({ port }: { port: number }): Promise<void> {
  const address = await serve({ port });
  console.log(`Lumbra is at ${address}`);
}
