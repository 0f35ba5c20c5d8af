import { faceNormals, type Mesh as CoreMesh, type Vector3 as Place } from '@lumbra/core';
import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Mesh,
  MeshBasicMaterial,
  Plane,
  Raycaster,
  Vector2,
  Vector3,
  type Object3D,
  type PerspectiveCamera,
  type Scene,
  type WebGLRenderer,
} from 'three';
import type { ClothLayer } from './clothLayer';
import { depthOf, depthPicture, placeInDepth, visiblePoints, type DepthPicture } from './depthPicture';
import type { ThingLayer } from './thingLayer';

/** What can be picked: the layers of cloth and of everything else, by id. */
export interface Layers {
  cloths: ReadonlyMap<string, ClothLayer>;
  things: ReadonlyMap<string, ThingLayer>;
}

/** What is where in the picture: things, places and points of cloth under places of the canvas, and back. */
export class Picking {
  readonly #renderer: WebGLRenderer;
  readonly #scene: Scene;
  readonly #camera: PerspectiveCamera;
  /** Where the camera looks, in m. */
  readonly #target: Vector3;
  readonly #layers: Layers;
  /** Called when a picture of depths was drawn over what was shown. */
  readonly #drawn: () => void;
  #depthPicture: DepthPicture | null = null;

  constructor(
    renderer: WebGLRenderer,
    scene: Scene,
    { camera, target }: { camera: PerspectiveCamera; target: Vector3 },
    layers: Layers,
    drawn: () => void,
  ) {
    this.#renderer = renderer;
    this.#scene = scene;
    this.#camera = camera;
    this.#target = target;
    this.#layers = layers;
    this.#drawn = drawn;
  }

  /** Something has moved: the picture of depths is no longer true. */
  forget(): void {
    this.#depthPicture = null;
  }

  /** The thing under a place of the canvas, in CSS pixels; the nearest one. */
  thingAt(x: number, y: number): string | null {
    const hit = this.#ray(x, y).intersectObjects(this.#bodies(), false)[0];
    return (hit?.object.userData['thing'] as string | undefined) ?? null;
  }

  /** The place in m under a place of the canvas: on the nearest thing, else on the floor, else where the camera looks. */
  placeAt(x: number, y: number): Place {
    const caster = this.#ray(x, y);
    const hit = caster.intersectObjects(this.#bodies(), false)[0]?.point;
    const floor = caster.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), 0), new Vector3());
    const near = floor && floor.distanceTo(this.#target) < 20 ? floor : null;
    return (hit ?? near ?? this.#target).toArray();
  }

  isCloth(id: string): boolean {
    return this.#layers.cloths.has(id);
  }

  /** The place in m under a place of the canvas that is as far into the picture as another one. */
  placeAtDepth(x: number, y: number, depth: Place): Place {
    const facing = this.#camera.getWorldDirection(new Vector3());
    const plane = new Plane().setFromNormalAndCoplanarPoint(facing, new Vector3(...depth));
    return (this.#ray(x, y).ray.intersectPlane(plane, new Vector3()) ?? new Vector3(...depth)).toArray();
  }

  #ray(x: number, y: number): Raycaster {
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    const caster = new Raycaster();
    caster.params.Line.threshold = 0.02;
    caster.setFromCamera(new Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.#camera);
    return caster;
  }

  #bodies(): Object3D[] {
    return [
      ...[...this.#layers.cloths.values()].map(({ surface }) => surface),
      ...[...this.#layers.things.values()].flatMap(({ group }) =>
        group.children.filter((child) => child.userData['thing']),
      ),
    ].filter((body) => body.parent?.visible);
  }

  /** Points of a cloth for whose place on the canvas, in CSS pixels, a test holds; hidden ones only when they are asked for. */
  pointsWhere(cloth: string, test: (x: number, y: number) => boolean, hidden: boolean): number[] {
    const layer = this.#layers.cloths.get(cloth);
    return layer ? this.#placesWhere(layer.positions, test, hidden) : [];
  }

  /** Which of many places, x y z in m, a test of their places on the canvas holds for. */
  #placesWhere(positions: ArrayLike<number>, test: (x: number, y: number) => boolean, hidden: boolean): number[] {
    const places = this.#onCanvas(positions);
    const found: number[] = [];
    for (let point = 0; point < places.length / 2; point++) {
      if (test(places[point * 2]!, places[point * 2 + 1]!)) found.push(point);
    }
    if (hidden || found.length === 0) return found;
    const seen = visiblePoints(this.#depths(), this.#camera, positions);
    return found.filter((point) => seen[point]);
  }

  /** The face of a surface, in m, that is the first under a place of the canvas; -1 where none is. */
  faceAt({ positions, triangles }: Pick<CoreMesh, 'positions' | 'triangles'>, x: number, y: number): number {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(triangles, 1));
    const body = new Mesh(geometry, new MeshBasicMaterial({ side: DoubleSide }));
    return this.#ray(x, y).intersectObject(body)[0]?.faceIndex ?? -1;
  }

  /** Faces of a surface, in m, for whose middle on the canvas a test holds; hidden ones, and where it has but one side those that are turned away, only when they are asked for. */
  facesWhere(
    surface: Pick<CoreMesh, 'positions' | 'triangles'>,
    test: (x: number, y: number) => boolean,
    hidden: boolean,
    bothSides = false,
  ): number[] {
    const { positions, triangles } = surface;
    const places = middles(positions, triangles, 3);
    const found = this.#placesWhere(places, test, hidden);
    if (hidden || bothSides) return found;
    const normals = faceNormals(surface);
    const eye = this.#camera.position.toArray();
    const faces = (face: number) =>
      [0, 1, 2].reduce((sum, k) => sum + normals[face * 3 + k]! * (eye[k]! - places[face * 3 + k]!), 0) > 0;
    return found.filter(faces);
  }

  /** Edges, two points each, of places x y z in m, for whose middle on the canvas a test holds; hidden ones only when they are asked for. */
  edgesWhere(
    positions: ArrayLike<number>,
    edgePoints: Uint32Array,
    test: (x: number, y: number) => boolean,
    hidden: boolean,
  ): number[] {
    return this.#placesWhere(middles(positions, edgePoints, 2), test, hidden);
  }

  /** The edge that is nearest to a place of the canvas, within so many CSS pixels all along it, of those that are wanted; -1 for none. */
  nearestEdge(
    positions: ArrayLike<number>,
    edgePoints: Uint32Array,
    at: { x: number; y: number },
    pixels: number,
    hidden: boolean,
    wanted: (edge: number) => boolean = () => true,
  ): number {
    const places = this.#onCanvas(positions);
    const away = (edge: number) => {
      const [a, b] = [edgePoints[edge * 2]! * 2, edgePoints[edge * 2 + 1]! * 2];
      const [ax, ay] = [places[a]!, places[a + 1]!];
      const [dx, dy] = [places[b]! - ax, places[b + 1]! - ay];
      const share = ((at.x - ax) * dx + (at.y - ay) * dy) / Math.max(dx * dx + dy * dy, 1e-9);
      const near = Math.min(1, Math.max(0, share));
      return Math.hypot(ax + near * dx - at.x, ay + near * dy - at.y);
    };
    const found = Array.from({ length: edgePoints.length / 2 }, (_, edge) => ({ edge, away: away(edge) }))
      .filter((one) => one.away <= pixels && wanted(one.edge))
      .sort((p, q) => p.away - q.away);
    if (hidden || found.length === 0) return found[0]?.edge ?? -1;
    const points = Uint32Array.from(found.flatMap(({ edge }) => [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!]));
    const seen = visiblePoints(this.#depths(), this.#camera, middles(positions, points, 2));
    return found.find((_, i) => seen[i])?.edge ?? -1;
  }

  /** The point of a cloth that is nearest to a place of the canvas, within so many CSS pixels; -1 for none. */
  nearestPoint(cloth: string, x: number, y: number, pixels: number, hidden: boolean): number {
    const layer = this.#layers.cloths.get(cloth);
    if (!layer) return -1;
    const near = this.pointsWhere(cloth, (px, py) => Math.hypot(px - x, py - y) <= pixels, hidden);
    const places = this.#onCanvas(layer.positions);
    const away = (point: number) => Math.hypot(places[point * 2]! - x, places[point * 2 + 1]! - y);
    return near.reduce((best, point) => (best < 0 || away(point) < away(best) ? point : best), -1);
  }

  /** Where points are on the canvas, x and y in CSS pixels; far away where they are behind the camera. */
  #onCanvas(positions: ArrayLike<number>): Float32Array {
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    const at = new Vector3();
    const places = new Float32Array((positions.length / 3) * 2);
    this.#camera.updateMatrixWorld();
    for (let point = 0; point < places.length / 2; point++) {
      at.set(positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!).project(this.#camera);
      places[point * 2] = at.z < 1 ? ((at.x + 1) / 2) * clientWidth : -1e6;
      places[point * 2 + 1] = at.z < 1 ? ((1 - at.y) / 2) * clientHeight : -1e6;
    }
    return places;
  }

  /** Where a place of the canvas is on a cloth, in m, when nothing else is before it. */
  placeOnCloth(cloth: string, x: number, y: number): Place | null {
    const picture = this.#depths();
    const depth = depthOf(cloth, picture, x, y);
    return depth === Infinity ? null : placeInDepth(picture, this.#camera, x, y, depth).toArray();
  }

  /** The picture of depths of everything; drawn anew when something has moved. */
  #depths(): DepthPicture {
    if (this.#depthPicture) return this.#depthPicture;
    this.#camera.updateMatrixWorld();
    this.#depthPicture = depthPicture(this.#renderer, this.#scene, this.#camera);
    this.#drawn();
    return this.#depthPicture;
  }

  /** How many CSS pixels a metre is at a place. */
  pixelsAt(place: Place): number {
    const away = this.#camera.position.distanceTo(new Vector3(...place));
    const seen = 2 * Math.tan((this.#camera.fov * Math.PI) / 360) * away;
    return this.#renderer.domElement.clientHeight / Math.max(1e-6, seen);
  }

  /** Where a place in m is on the canvas, in CSS pixels; null behind the camera. */
  project(place: readonly [number, number, number]): { x: number; y: number } | null {
    this.#camera.updateMatrixWorld();
    const at = new Vector3(...place).project(this.#camera);
    if (at.z >= 1) return null;
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    return { x: ((at.x + 1) / 2) * clientWidth, y: ((1 - at.y) / 2) * clientHeight };
  }
}

/** The middles of edges or faces, of so many points each, x y z in m. */
function middles(positions: ArrayLike<number>, points: Uint32Array, each: number): Float32Array {
  const places = new Float32Array((points.length / each) * 3);
  points.forEach((point, i) => {
    for (let k = 0; k < 3; k++) places[Math.floor(i / each) * 3 + k]! += positions[point * 3 + k]! / each;
  });
  return places;
}
