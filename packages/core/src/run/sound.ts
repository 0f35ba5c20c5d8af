import { meshProblem, type Mesh } from '../mesh/mesh';

/** A shot cannot be run; the message names the thing and says what to do. */
export class CompileError extends Error {}

/** @throws CompileError naming the thing when its mesh cannot be used */
export function requireSound(mesh: Mesh, name: string): void {
  const problem = meshProblem(mesh);
  if (problem) throw new CompileError(`“${name}” cannot be run: ${problem}.`);
}
