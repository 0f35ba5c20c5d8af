import {
  DoubleSide,
  FloatType,
  NearestFilter,
  RGBAFormat,
  ShaderMaterial,
  Vector3,
  WebGLRenderTarget,
  type PerspectiveCamera,
  type Scene,
  type WebGLRenderer,
} from 'three';

/** What hides points: cloth and solid things. Lines, handles and the floor do not. */
export const BODY_LAYER = 1;

/** How far behind the surface in the picture a point may be and still be on it, in m and as a share of the distance. */
const BIAS = { metres: 0.003, share: 0.004 };

const distance = new ShaderMaterial({
  side: DoubleSide,
  vertexShader: `
    varying float away;
    void main() {
      vec4 seen = modelViewMatrix * vec4(position, 1.0);
      away = -seen.z;
      gl_Position = projectionMatrix * seen;
    }`,
  uniforms: { owner: { value: 0 } },
  fragmentShader: `
    varying float away;
    uniform float owner;
    void main() { gl_FragColor = vec4(away, owner, 0.0, 1.0); }`,
});

/** How far into the picture surfaces are, pixel by pixel from the lower left, in m; Infinity where there is none. */
export interface DepthPicture {
  width: number;
  height: number;
  depths: Float32Array;
  /** Whose surface that is, as places in `owners`. */
  owned: Uint16Array;
  /** Ids of cloths and things. */
  owners: string[];
}

/** Draws how far away cloth and things are, and which is where. One drawing and reading back; to be kept while nothing moves. */
export function depthPicture(renderer: WebGLRenderer, scene: Scene, camera: PerspectiveCamera): DepthPicture {
  const { clientWidth: width, clientHeight: height } = renderer.domElement;
  const target = new WebGLRenderTarget(width, height, {
    format: RGBAFormat,
    type: FloatType,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  });
  const [background, shadows] = [scene.background, renderer.shadowMap.enabled];
  scene.background = null;
  scene.overrideMaterial = distance;
  renderer.shadowMap.enabled = false;
  camera.layers.set(BODY_LAYER);
  const owners = numberBodies(scene, camera);
  renderer.setRenderTarget(target);
  renderer.setClearColor(0x000000, 0);
  renderer.clear();
  renderer.render(scene, camera);
  const pixels = new Float32Array(width * height * 4);
  renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
  renderer.setRenderTarget(null);
  camera.layers.set(0);
  scene.overrideMaterial = null;
  scene.background = background;
  renderer.shadowMap.enabled = shadows;
  target.dispose();
  const depths = new Float32Array(width * height);
  const owned = new Uint16Array(width * height);
  for (let pixel = 0; pixel < depths.length; pixel++) {
    depths[pixel] = pixels[pixel * 4 + 3]! > 0 ? pixels[pixel * 4]! : Infinity;
    owned[pixel] = pixels[pixel * 4 + 1]!;
  }
  return { width, height, depths, owned, owners };
}

/** Lets every body that the camera sees be drawn with the number of its owner; gives the owners by number. */
function numberBodies(scene: Scene, camera: PerspectiveCamera): string[] {
  const owners: string[] = [];
  scene.traverseVisible((body) => {
    const id = body.userData['thing'] as string | undefined;
    if (id === undefined || !body.layers.test(camera.layers)) return;
    let number = owners.indexOf(id);
    if (number < 0) number = owners.push(id) - 1;
    body.onBeforeRender = (_renderer, _scene, _camera, _geometry, material) => {
      if (material !== distance) return;
      distance.uniforms['owner']!.value = number;
      distance.uniformsNeedUpdate = true;
    };
  });
  return owners;
}

/** How far into the picture the surface of an owner is at a place of the canvas, x and y in CSS pixels; Infinity where it is not what is seen. */
export function depthOf(
  owner: string,
  { width, height, depths, owned, owners }: DepthPicture,
  x: number,
  y: number,
): number {
  const [column, row] = [Math.floor(x), height - 1 - Math.floor(y)];
  if (column < 0 || row < 0 || column >= width || row >= height) return Infinity;
  const pixel = row * width + column;
  return owners[owned[pixel]!] === owner ? depths[pixel]! : Infinity;
}

/** The place in the world, in m, that is so far into the picture at a place of the canvas. */
export function placeInDepth(
  { width, height }: DepthPicture,
  camera: PerspectiveCamera,
  x: number,
  y: number,
  depth: number,
): Vector3 {
  const half = Math.tan((camera.fov * Math.PI) / 360) * depth;
  const place = new Vector3(((x / width) * 2 - 1) * half * camera.aspect, (1 - (y / height) * 2) * half, -depth);
  return place.applyMatrix4(camera.matrixWorld);
}

/** Which of some points, x y z in m, are seen by the camera and not hidden behind cloth or a thing; a byte a point. */
export function visiblePoints(
  picture: DepthPicture,
  camera: PerspectiveCamera,
  positions: ArrayLike<number>,
): Uint8Array {
  const { width, height, depths } = picture;
  const seen = new Uint8Array(positions.length / 3);
  const at = new Vector3();
  const inView = new Vector3();
  for (let point = 0; point < seen.length; point++) {
    at.set(positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!);
    const away = -inView.copy(at).applyMatrix4(camera.matrixWorldInverse).z;
    at.project(camera);
    const x = Math.floor(((at.x + 1) / 2) * width);
    const y = Math.floor(((at.y + 1) / 2) * height);
    if (away <= 0 || x < 1 || y < 1 || x >= width - 1 || y >= height - 1) continue;
    // The farthest surface around the pixel counts: at an edge the nearest one would hide the edge itself.
    let farthest = 0;
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        farthest = Math.max(farthest, depths[(y + dy) * width + x + dx]!);
      }
    }
    if (away <= farthest + BIAS.metres + BIAS.share * away) seen[point] = 1;
  }
  return seen;
}
