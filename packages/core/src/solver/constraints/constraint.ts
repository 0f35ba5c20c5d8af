/**
 * What holds points where they belong, in the order in which the solver lists them. All see and write the same points and displacements;
 * contact has its say after each round of them.
 */
export interface Constraint {
  /** Sets stiffness for substeps of h seconds. */
  setStep?(h: number): void;
  /** One sweep, in the substep of a frame of this number, counted from 0. */
  solve(substep: number): void;
  /** Sweeps again, between two passes of contact, what those have pulled apart; the sweeps run to and fro. */
  again?(backward: boolean): void;
  /** Damps what it has done over a share of the damping interval. */
  damp?(share: number): void;
  /** What a run needs besides positions and velocities to go on from here bit for bit. */
  save?(): Uint8Array;
  restore?(saved: Uint8Array): void;
}

/** Where a constraint finds points and displacements of all cloths, and what they carry over: addresses in the kernel's memory. */
export interface PointAddresses {
  points: number;
  displacement: number;
  residual: number;
  velocity: number;
}
