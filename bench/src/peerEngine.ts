import { fabricSchema, Solver, topology, type Mesh, type Model } from '@lumbra/core';
import initJolt from 'jolt-physics/wasm-compat';
import { median, row } from './print';
import { hangingSheet } from './scenes';

// A sheet that hangs by its corners, in the general-purpose engine jolt-physics (soft body of edges and dihedral bending,
// the same points, faces and masses) and in Lumbra, each with as many substeps as it needs for the same mean strain.

const SETTLE_FRAMES = 24;
const TIMED_FRAMES = 5;
const WANTED_STRAIN = 0.004;
const SUBSTEPS = [10, 14, 20, 28, 40, 56, 80, 112, 160, 224, 320, 448, 640, 900];

type Jolt = Awaited<ReturnType<typeof initJolt>>;

interface Runner {
  /** Runs a frame. */
  frame: () => void;
  positions: () => Float32Array;
  end: () => void;
}

function meanStrain(rest: Mesh, at: Float32Array): number {
  const t = topology(rest);
  let sum = 0;
  const distance = (p: Float32Array, a: number, b: number) =>
    Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    sum += Math.abs(distance(at, a, b) / distance(rest.positions, a, b) - 1);
  }
  return sum / t.edgeCount;
}

function lumbra(model: Model, substeps: number): Runner {
  const solver = new Solver(model);
  return { frame: () => solver.advance(1 / 24, substeps), positions: () => solver.positions(0), end: () => undefined };
}

function jolt(library: Jolt, model: Model, substeps: number): Runner {
  const { rest, held, fabric } = model.cloths[0]!;
  const settings = new library.JoltSettings();
  const pairs = new library.ObjectLayerPairFilterTable(1);
  const layers = new library.BroadPhaseLayerInterfaceTable(1, 1);
  layers.MapObjectToBroadPhaseLayer(0, new library.BroadPhaseLayer(0));
  settings.mObjectLayerPairFilter = pairs;
  settings.mBroadPhaseLayerInterface = layers;
  settings.mObjectVsBroadPhaseLayerFilter = new library.ObjectVsBroadPhaseLayerFilterTable(layers, 1, pairs, 1);
  const world = new library.JoltInterface(settings);
  library.destroy(settings);
  const shared = new library.SoftBodySharedSettings();
  const count = rest.positions.length / 3;
  const area = new Float64Array(count);
  const cell = (rest.material![2]! - rest.material![0]!) ** 2 / 2;
  rest.triangles.forEach((point) => (area[point]! += cell / 3));
  const vertex = new library.SoftBodySharedSettingsVertex();
  for (let i = 0; i < count; i++) {
    const [x, y, z] = rest.positions.subarray(i * 3, i * 3 + 3) as unknown as [number, number, number];
    const place = new library.Float3(x, y, z);
    vertex.mPosition = place;
    vertex.mInvMass = held.includes(i) ? 0 : 1 / (area[i]! * fabric.weight);
    shared.mVertices.push_back(vertex);
    library.destroy(place);
  }
  for (let t = 0; t < rest.triangles.length; t += 3) {
    const [a, b, c] = rest.triangles.subarray(t, t + 3) as unknown as [number, number, number];
    const face = new library.SoftBodySharedSettingsFace(a, b, c, 0);
    shared.AddFace(face);
    library.destroy(face);
  }
  const attributes = new library.SoftBodySharedSettingsVertexAttributes();
  attributes.mCompliance = attributes.mShearCompliance = 1e-7;
  attributes.mBendCompliance = 1 / fabric.bendWarp;
  shared.CreateConstraints(attributes, 1, library.SoftBodySharedSettings_EBendType_Dihedral);
  shared.Optimize();
  const creation = new library.SoftBodyCreationSettings(
    shared,
    new library.RVec3(0, 0, 0),
    new library.Quat(0, 0, 0, 1),
    0,
  );
  creation.mNumIterations = substeps;
  creation.mLinearDamping = 0.1;
  creation.mAllowSleeping = false;
  creation.mUpdatePosition = false;
  const bodies = world.GetPhysicsSystem().GetBodyInterface();
  const body = bodies.CreateSoftBody(creation);
  bodies.AddBody(body.GetID(), library.EActivation_Activate);
  const motion = library.castObject(body.GetMotionProperties(), library.SoftBodyMotionProperties);
  return {
    frame: () => world.Step(1 / 24, 1),
    positions: () => {
      const at = new Float32Array(count * 3);
      for (let i = 0; i < count; i++) {
        const place = motion.GetVertex(i).mPosition;
        at.set([place.GetX(), place.GetY(), place.GetZ()], i * 3);
      }
      return at;
    },
    end: () => library.destroy(world),
  };
}

interface Found {
  substeps: number;
  strain: number;
  runner: Runner;
}

/** The fewest substeps whose mean strain is at most what is wanted, hanging at rest. */
function fewestSubsteps(rest: Mesh, wanted: number, start: (substeps: number) => Runner, least = 0): Found | undefined {
  for (const substeps of SUBSTEPS.filter((count) => count >= least)) {
    const runner = start(substeps);
    for (let frame = 0; frame < SETTLE_FRAMES; frame++) runner.frame();
    const strain = meanStrain(rest, runner.positions());
    if (strain <= wanted) return { substeps, strain, runner };
    runner.end();
  }
  return undefined;
}

export async function peerEngine(): Promise<void> {
  console.log('\nHanging sheet at equal mean strain against jolt-physics, medians of interleaved frames');
  row('sheet', 'Lumbra ms', 'strain %', 'substeps', 'peer ms', 'strain %', 'substeps', 'peer / Lumbra');
  const library = await initJolt();
  for (const n of [51, 101]) {
    const scene = hangingSheet(n);
    const [cloth] = scene.cloths;
    // Stiff, so that what gives is the solver and not the fabric.
    const fabric = fabricSchema.parse({ ...cloth!.fabric, stretchWarp: 1e6, stretchWeft: 1e6, shear: 1e5, squeeze: 1 });
    const model: Model = { ...scene, cloths: [{ ...cloth!, fabric }], layers: 'off' };
    const own = fewestSubsteps(cloth!.rest, WANTED_STRAIN, (substeps) => lumbra(model, substeps));
    // It needs more than this on either sheet; looking from there on saves minutes.
    const peer = own && fewestSubsteps(cloth!.rest, own.strain * 1.2, (substeps) => jolt(library, model, substeps), 80);
    if (!own || !peer) {
      const who = own
        ? `the peer stayed above ${(own.strain * 120).toFixed(3)} % with ${SUBSTEPS.at(-1)} substeps`
        : 'Lumbra stayed above it';
      console.log(`${n}x${n}: ${who}`);
      continue;
    }
    const times: [number[], number[]] = [[], []];
    for (let round = 0; round < TIMED_FRAMES; round++) {
      for (const [i, { runner }] of [own, peer].entries()) {
        const started = performance.now();
        runner.frame();
        times[i]!.push(performance.now() - started);
      }
    }
    const [a, b] = [median(times[0]), median(times[1])];
    const percent = (share: number) => (share * 100).toFixed(3);
    row(
      `${n}x${n}`,
      ...[a.toFixed(1), percent(own.strain), String(own.substeps)],
      ...[b.toFixed(1), percent(peer.strain), String(peer.substeps), (b / a).toFixed(1)],
    );
    peer.runner.end();
  }
}
