import { z } from 'zod';
import { byKind, kindNames, schemasOf } from '../../quantity/kinds';
import type { CueWhen } from '../cueWhen';
import { faster } from './faster';
import { frame } from './frame';
import { inside } from './inside';
import { masked } from './masked';
import { released } from './released';
import { slower } from './slower';
import { stretched } from './stretched';
import { touch } from './touch';

/** What a cue can wait for, in the order in which it is offered. To add one: a file here, and a line in this list. */
const ALL = [touch, inside, frame, released, stretched, faster, slower, masked] as const;

export const whenSchema = z.discriminatedUnion('kind', schemasOf(ALL));

export type When = z.infer<typeof whenSchema>;
export type WhenKind = When['kind'];

/** What is declared of each. */
export const CUE_WHENS = byKind<WhenKind, CueWhen>(ALL);

/** In the order in which they are offered. */
export const CUE_WHEN_KINDS = kindNames<WhenKind>(ALL);
