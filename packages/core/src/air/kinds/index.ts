import { z } from 'zod';
import { byKind, kindNames, schemasOf } from '../../quantity/kinds';
import type { AirKind } from '../airKind';
import { attractor } from './attractor';
import { beam } from './beam';
import { swirl } from './swirl';
import { turbulence } from './turbulence';
import { wind } from './wind';

/** The kinds of air, in the order in which they are offered. To add one: a file here, and a line in this list. */
const ALL = [wind, beam, swirl, turbulence, attractor] as const;

export const airSchema = z.discriminatedUnion('kind', schemasOf(ALL));

export type Air = z.infer<typeof airSchema>;
export type AirKindName = Air['kind'];

/** What is declared of each kind of air. */
export const AIR_KINDS = byKind<AirKindName, AirKind>(ALL);

/** In the order in which they are offered. */
export const AIR_KIND_NAMES = kindNames<AirKindName>(ALL);
