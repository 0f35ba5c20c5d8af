import { serveCall, type HelperCall } from '@lumbra/core/helper';

// A thread that helps the run to compute.

addEventListener('message', ({ data }: MessageEvent<HelperCall>) => serveCall(data));
