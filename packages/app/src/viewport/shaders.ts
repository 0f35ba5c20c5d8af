import type { Light, Material, Object3D, PerspectiveCamera, Scene, WebGLProgram, WebGLRenderer } from 'three';
import { driverPassed } from './driverPassed';

/**
 * Which shaders the driver has. The first question about one that was just given to it makes the page wait for that, and for all that it
 * is still drawing; so the page goes on until the driver has come so far, and only then draws with it.
 */
export class Shaders {
  readonly #renderer: WebGLRenderer;
  /** What the shader of a material depends on besides itself, as it was when that was asked for. */
  readonly #asked = new WeakMap<Material, string>();
  /** Those that were drawn with, or that the driver has been waited for. */
  readonly #had = new WeakSet<WebGLProgram>();

  constructor(renderer: WebGLRenderer) {
    this.#renderer = renderer;
  }

  /** Asks for what a part of a scene, or all of it, is drawn with. Returns what to wait for; null where all is there. */
  ask(scene: Scene, camera: PerspectiveCamera, part: Object3D = scene): Promise<void> | null {
    if (!this.#hasNew(scene, part)) return null;
    const compiled = this.#renderer.compileAsync(part, camera, scene);
    const programs = (this.#renderer.info.programs ?? []).filter((program) => !this.#had.has(program));
    return programs.length === 0 ? null : this.#come(compiled, programs);
  }

  /** With all that the renderer has it has drawn. */
  drawn(): void {
    for (const program of this.#renderer.info.programs ?? []) this.#had.add(program);
  }

  #hasNew(scene: Scene, part: Object3D): boolean {
    const casting = scene.children.filter((object) => 'isLight' in object && (object as Light).castShadow).length;
    let found = false;
    part.traverse((object) => {
      const { material, receiveShadow } = object as Object3D & { material?: Material | Material[] };
      for (const each of material ? [material].flat() : []) {
        const key = `${each.version} ${receiveShadow} ${casting}`;
        if (this.#asked.get(each) === key) continue;
        this.#asked.set(each, key);
        found = true;
      }
    });
    return found;
  }

  async #come(compiled: Promise<unknown>, programs: readonly WebGLProgram[]): Promise<void> {
    // A driver that was lost is no reason to stop; nothing is drawn then.
    await compiled.catch(() => undefined);
    await driverPassed(this.#renderer.getContext() as WebGL2RenderingContext);
    for (const program of programs) {
      // Asked for while the driver has nothing to do: in the middle of a picture the page would wait for what of it was given to the driver before.
      program.getUniforms();
      program.getAttributes();
      this.#had.add(program);
    }
  }
}
