import type { z } from 'zod';
import type { Mesh } from '../mesh/mesh';
import type { Quantity } from '../quantity/quantity';

type KindSchema = z.ZodObject<{ kind: z.ZodLiteral<string> }>;

/** What a step makes of a mesh, whatever its points do. */
export interface Finisher<Step> {
  /** The mesh that it gives: faces, material coordinates, and the places as cut. */
  mesh: Mesh;
  /**
   * Where its points are when those of the mesh that it was given are at `positions`, x y z in m each. `mask`, where there is one, says how
   * much of the step each of the given points takes, 0 to 1; `things` are the meshes of those that it is about, as they stand at that frame, in the world.
   * Nothing that it is given is written to.
   */
  place: (
    positions: Float32Array,
    step: Step,
    mask: Float32Array | null,
    things: ReadonlyMap<string, Mesh>,
  ) => Float32Array;
  /** A number for each point that the step was given, as numbers for the points that it gives. */
  carry: (values: Float32Array) => Float32Array;
}

/** What a finish list is given of the shot, in the world. */
export interface FinishGiven {
  /** Where the simulated points of the cloth start, x y z in m. */
  start: Float32Array;
  /** Meshes of other things as they stand when the cloth starts, by the ids of the things. */
  meshes: ReadonlyMap<string, Mesh>;
}

/** What a step is given besides its mesh. */
export interface StepGiven {
  /** Where the points of the mesh are when the cloth starts, x y z in m in the world. */
  at: Float32Array;
  meshes: FinishGiven['meshes'];
}

/** All that Lumbra knows of a kind of finishing step. Document, form, keys, order and what is handed over follow from it. */
export interface FinishStep<Schema extends KindSchema = KindSchema, Step = z.infer<Schema>> {
  label: string;
  /** One line: what it does. */
  help: string;
  /** Its numbers and choices. Numbers that can be keyed never change which faces there are. */
  schema: Schema;
  /** What ticks and choices are called that are no numbers. */
  words?: Readonly<Record<string, string>>;
  /** What can be chosen of those of them that are choices. */
  choices?: Readonly<Record<string, readonly string[]>>;
  /** Entries of the schema that have the id of a thing with a surface, or null until one is chosen, and what they are called. */
  things?: Readonly<Record<string, string>>;
  /** Whether that thing is shown as the cloth from then on: where it stands it would be seen twice. */
  standsIn?: true;
  /** Whether it asks at every frame where those things are. */
  follows?: true;
  /** Whether a mask can keep parts of the cloth out of it. */
  masked?: true;
  /** Whether it lets the take go by otherwise than it was baked: as fast as its number `speed` says, 1 as it was. */
  retimes?: true;
  /** Numbers that can be keyed and are no entries of the schema: there are as many as the step itself says. Their names are paths in it. */
  numbersOf?: (step: Step) => Record<string, Quantity>;
  /** What a new step begins with for cloth as it lies, x y z in m. */
  begin?: (positions: Float32Array, triangles: Uint32Array) => Partial<Step>;
  /** Prepares the step for a mesh: done once, then for every frame `place`. @throws RangeError with a sentence for the artist */
  build: (mesh: Mesh, step: Step, given: StepGiven) => Finisher<Step>;
}

/** Declares a finishing step. */
export function finishStep<Schema extends KindSchema>(declared: FinishStep<Schema>): FinishStep<Schema> {
  return declared;
}

/** A step that leaves the faces as they are. */
export function sameFaces<Step>(mesh: Mesh, place: Finisher<Step>['place']): Finisher<Step> {
  return { mesh, place, carry: (values) => values };
}

/** Points between what they were and what a step makes of them, as its mask says. */
export function masked(before: Float32Array, after: Float32Array, mask: Float32Array | null): Float32Array {
  if (!mask) return after;
  return after.map((value, i) => before[i]! + (value - before[i]!) * mask[Math.floor(i / 3)]!);
}
