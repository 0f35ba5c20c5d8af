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
  fragmentShader: `
    varying float away;
    void main() { gl_FragColor = vec4(away, 0.0, 0.0, 1.0); }`,
});

/** Which of some points, x y z in m, are seen by the camera and not hidden behind cloth or a thing; a byte a point. */
export function visiblePoints(
  renderer: WebGLRenderer,
  scene: Scene,
  camera: PerspectiveCamera,
  positions: ArrayLike<number>,
): Uint8Array {
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
        const pixel = ((y + dy) * width + x + dx) * 4;
        const surface = pixels[pixel + 3]! > 0 ? pixels[pixel]! : Infinity;
        farthest = Math.max(farthest, surface);
      }
    }
    if (away <= farthest + BIAS.metres + BIAS.share * away) seen[point] = 1;
  }
  return seen;
}
