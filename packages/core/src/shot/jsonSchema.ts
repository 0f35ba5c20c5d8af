import { z } from 'zod';
import { SHOT_VERSION, shotSchema } from './schema';

/** The JSON schema of the shot document, for docs/shot.schema.json and for other programs. */
export function shotJsonSchema(): object {
  return { ...z.toJSONSchema(shotSchema, { io: 'input' }), title: `Lumbra shot, version ${SHOT_VERSION}` };
}
