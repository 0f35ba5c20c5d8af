import { air } from './air';
import { fabric } from './fabric';
import { finish } from './finish';
import { handOff } from './handOff';
import { hold } from './hold';
import { pattern } from './pattern';
import { run } from './run';
import { stage } from './stage';
import type { Station } from './station';

export type { Knot, Station } from './station';

/** The stations, in the order of the work. Each is one folder and one line here. */
export const STATIONS: readonly Station[] = [stage, pattern, fabric, hold, air, run, finish, handOff];
