import {
  flatAtFrame,
  pointNormals,
  pointStretch,
  shapeMesh,
  borderLoops,
  topology,
  type Assets,
  type Cloth,
  type FlatTriangles,
  type Mesh,
} from '@lumbra/core';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  LineSegments,
  LineBasicMaterial,
  Mesh as ThreeMesh,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  ShaderChunk,
  type Material,
  type WebGLProgramParametersWithUniforms,
} from 'three';
import { Line2 } from 'three/addons/lines/Line2.js';
import { LineGeometry } from 'three/addons/lines/LineGeometry.js';
import type { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import type { ViewMode } from '../stores/selection';
import type { ShownMesh } from './scene';
import { stretchColour } from './stretchColours';
import { stitchMaterial } from './thingLayer';
import { BODY_LAYER } from './depthPicture';
import { tellBounds } from './knownBounds';
import { printBitmap } from './printBitmap';
import { printTexture, weaveTexture } from './weave';

// On back faces the shadow's normal offset has to point to the camera, or two-sided cloth shadows itself black.
function faceShadowToCamera(shader: WebGLProgramParametersWithUniforms): void {
  shader.vertexShader = shader.vertexShader.replace(
    '#include <shadowmap_vertex>',
    `
#if ( defined( USE_SHADOWMAP ) && NUM_DIR_LIGHT_SHADOWS > 0 )
  vec3 shadowNormalToCamera = transformedNormal;
  transformedNormal *= sign( dot( transformedNormal, - mvPosition.xyz ) + 1e-9 );
#endif
#include <shadowmap_vertex>
#if ( defined( USE_SHADOWMAP ) && NUM_DIR_LIGHT_SHADOWS > 0 )
  transformedNormal = shadowNormalToCamera;
#endif`,
  );
}

/**
 * Whether a place is seen from its back. Triangles just beyond a rounded edge lie as deep as those before it, and shine through between the samples of a
 * pixel: lit as backs they were a dotted dark line along every fold. By their normals they are seen nearly edge-on; a back that is seen so is narrower than
 * a pixel.
 */
const FROM_BACK = '( ! gl_FrontFacing && dot( normalize( vNormal ), normalize( vViewPosition ) ) < - 0.1 )';

/** Lights a place from the side that it is seen from. */
function lightSideSeen(shader: WebGLProgramParametersWithUniforms): void {
  shader.fragmentShader = shader.fragmentShader.replace(
    '#include <normal_fragment_begin>',
    ShaderChunk.normal_fragment_begin.replace('gl_FrontFacing ? 1.0 : - 1.0', `${FROM_BACK} ? - 1.0 : 1.0`),
  );
}

/** The back of a cloth that is printed on one side has the plain colour. */
function leaveBackPlain(shader: WebGLProgramParametersWithUniforms, colour: Color): void {
  shader.uniforms['backColour'] = { value: colour };
  shader.fragmentShader = shader.fragmentShader
    .replace('#include <common>', '#include <common>\nuniform vec3 backColour;')
    .replace(
      '#include <map_fragment>',
      `#include <map_fragment>
#ifdef ONE_SIDED
if ( ${FROM_BACK} ) diffuseColor.rgb = backColour;
#endif`,
    );
}

/** One cloth in the viewport. */
export class ClothLayer {
  readonly group = new Group();
  readonly surface: ThreeMesh;
  #mesh: Mesh;
  #flat: FlatTriangles | null = null;
  #frame = 0;
  #cloth: Cloth;
  readonly #assets: Assets;
  #geometry = new BufferGeometry();
  #print: MeshPhysicalMaterial;
  #plain: MeshStandardMaterial;
  /** Made when they are first shown: both ask for the mesh's edges, which takes a while for large cloth. */
  #wires: LineSegments | null = null;
  #borders: { loop: number[]; line: Line2 }[] | null = null;
  #positions: Float32Array = new Float32Array();
  #mode: ViewMode = 'print';
  #shapeKey: string;
  /** What the print is drawn of. */
  #printed: Cloth['print'] | null = null;
  /** The colour of the back where only the front is printed. */
  readonly #back = new Color();
  readonly #changed: () => void;
  /** Settled when the picture of the print is drawn. */
  ready: Promise<void> = Promise.resolve();
  /** What is drawn in place of the simulated mesh. */
  #instead: ThreeMesh | null = null;
  #shown: ShownMesh | undefined;
  /** A mask that is shown in place of the print, a byte a point. */
  #mask: Uint8Array | null = null;

  /** `changed` is called when something is drawn later: a picture that had to be decoded. */
  constructor(cloth: Cloth, assets: Assets, mode: ViewMode, changed: () => void) {
    this.#changed = changed;
    this.#assets = assets;
    this.#cloth = cloth;
    this.#shapeKey = JSON.stringify(cloth.shape);
    this.#mesh = shapeMesh(cloth.shape, assets);
    this.#print = new MeshPhysicalMaterial({
      side: DoubleSide,
      roughness: 0.92,
      sheen: 0.22,
      sheenRoughness: 0.7,
      sheenColor: new Color('#FFF3DD'),
      bumpMap: weaveTexture(),
      bumpScale: 0.6,
    });
    this.#plain = new MeshStandardMaterial({ side: DoubleSide, roughness: 0.95, vertexColors: true });
    this.#plain.onBeforeCompile = (shader) => {
      faceShadowToCamera(shader);
      lightSideSeen(shader);
    };
    this.#print.onBeforeCompile = (shader) => {
      faceShadowToCamera(shader);
      lightSideSeen(shader);
      leaveBackPlain(shader, this.#back);
    };
    const count = this.#mesh.positions.length / 3;
    this.#geometry.setAttribute('position', new BufferAttribute(new Float32Array(count * 3), 3));
    this.#geometry.setAttribute('normal', new BufferAttribute(new Float32Array(count * 3), 3));
    this.#geometry.setAttribute('color', new BufferAttribute(new Float32Array(count * 3).fill(1), 3));
    if (this.#mesh.material) this.#geometry.setAttribute('uv', new BufferAttribute(this.#mesh.material, 2));
    this.#geometry.setIndex(new BufferAttribute(this.#mesh.triangles, 1));
    this.surface = new ThreeMesh(this.#geometry, this.#print);
    this.surface.castShadow = this.surface.receiveShadow = true;
    this.surface.frustumCulled = false;
    this.surface.userData['thing'] = cloth.id;
    this.surface.layers.enable(BODY_LAYER);
    this.group.add(this.surface);
    this.update(cloth, mode);
  }

  get id(): string {
    return this.#cloth.id;
  }

  get positions(): Float32Array {
    return this.#positions;
  }

  /** The points that are drawn. */
  get drawn(): Float32Array {
    return this.#shown?.positions ?? this.#positions;
  }

  /** Whether a changed cloth still has this mesh. */
  fits(cloth: Cloth): boolean {
    return JSON.stringify(cloth.shape) === this.#shapeKey;
  }

  /** Takes over print, fabric and visibility. */
  update(cloth: Cloth, mode: ViewMode): void {
    const { fabric, fabricMasks, masks, keys } = this.#cloth;
    const same = cloth.fabric === fabric && cloth.fabricMasks === fabricMasks && cloth.masks === masks;
    // What stretch is measured by is made when it is first asked for.
    if (!same || cloth.keys !== keys) this.#flat = null;
    this.#cloth = cloth;
    this.#mode = mode;
    this.group.visible = cloth.visible;
    if (cloth.print !== this.#printed) this.#takePrint(cloth.print);
    this.#setMaterial();
    if (mode === 'mesh') this.#wires ??= this.#makeWires();
    if (this.#wires) this.#wires.visible = mode === 'mesh';
    if (this.#positions.length > 0) this.#colour();
  }

  #takePrint(print: Cloth['print']): void {
    const before = this.#printed;
    this.#printed = print;
    this.#print.roughness = print.waxed ? 0.66 : 0.92;
    this.#print.sheen = print.waxed ? 0 : 0.22;
    this.#print.bumpScale = print.waxed ? 0.35 : 0.6;
    this.#back.set(print.colour);
    const { picture } = print;
    if (print.kind !== 'picture' || picture === '') {
      this.#drawPrint(null);
      return;
    }
    // Until it is there, what was there stays, or the cloth is plain.
    if (!before) this.#drawPrint(null);
    this.ready = printBitmap(picture).then((bitmap) => {
      if (this.#printed !== print) return;
      this.#drawPrint(bitmap);
      this.#changed();
    });
  }

  #drawPrint(picture: ImageBitmap | null): void {
    const print = this.#printed!;
    this.#print.map?.dispose();
    this.#print.map = this.#mesh.material ? printTexture(print, picture) : null;
    this.#print.color.set(this.#mesh.material ? '#ffffff' : print.colour);
    this.#print.alphaTest = print.cutOut ? 0.5 : 0;
    this.#print.defines = { ...this.#print.defines };
    if (print.oneSided) this.#print.defines['ONE_SIDED'] = '';
    else delete this.#print.defines['ONE_SIDED'];
    this.#print.needsUpdate = true;
  }

  /** Takes keyed numbers of its fabric to a frame: what stretch is measured by. */
  setFrame(frame: number): void {
    if (frame === this.#frame) return;
    this.#frame = frame;
    if (!this.#cloth.keys.some(({ number }) => /^(fabric\.|mask:)/.test(number))) return;
    this.#flat = null;
    if (this.#positions.length > 0) this.#colour();
  }

  /** Shows a pose, x y z in metres; with another mesh, that is drawn in its place. */
  setPositions(positions: Float32Array, shown?: ShownMesh): void {
    this.#positions = positions;
    this.showInstead(shown);
    const place = this.#geometry.getAttribute('position') as BufferAttribute;
    (place.array as Float32Array).set(positions);
    place.needsUpdate = true;
    const normal = this.#geometry.getAttribute('normal') as BufferAttribute;
    pointNormals(positions, this.#mesh.triangles, normal.array as Float32Array, this.#mesh.sewn);
    normal.needsUpdate = true;
    tellBounds(this.#geometry, positions);
    this.#colour();
    this.#drawBorders();
  }

  /** Draws another mesh in place of the simulated one, or the simulated one again. */
  showInstead(shown: ShownMesh | undefined): void {
    this.#shown = shown;
    this.surface.visible = shown === undefined;
    if (!shown) {
      this.#instead?.geometry.dispose();
      if (this.#instead) this.group.remove(this.#instead);
      this.#instead = null;
      return;
    }
    const { mesh, positions } = shown;
    if (this.#instead?.userData['mesh'] !== mesh) {
      this.showInstead(undefined);
      this.#shown = shown;
      this.surface.visible = false;
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(new Float32Array(positions.length), 3));
      geometry.setAttribute('normal', new BufferAttribute(new Float32Array(positions.length), 3));
      if (mesh.material) geometry.setAttribute('uv', new BufferAttribute(mesh.material, 2));
      geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
      this.#instead = new ThreeMesh(geometry, this.#print);
      this.#instead.castShadow = this.#instead.receiveShadow = true;
      this.#instead.frustumCulled = false;
      Object.assign(this.#instead.userData, { mesh, thing: this.id });
      this.#instead.layers.enable(BODY_LAYER);
      this.group.add(this.#instead);
    }
    const [place, normal] = ['position', 'normal'].map(
      (name) => this.#instead!.geometry.getAttribute(name) as BufferAttribute,
    ) as [BufferAttribute, BufferAttribute];
    (place.array as Float32Array).set(positions);
    pointNormals(positions, mesh.triangles, normal.array as Float32Array, mesh.sewn);
    place.needsUpdate = normal.needsUpdate = true;
    tellBounds(this.#instead!.geometry, positions);
  }

  /** Shows a mask in colour, or the cloth again. */
  setMask(mask: Uint8Array | null): void {
    if (mask === null && this.#mask === null) return;
    this.#mask = mask;
    this.#setMaterial();
    if (this.#positions.length > 0) this.#colour();
  }

  #setMaterial(): void {
    this.surface.material = this.#mode === 'print' && !this.#mask ? this.#print : this.#plain;
  }

  setSelected(selected: boolean, colour: string): void {
    if (selected) this.#borders ??= this.#makeBorders();
    for (const { line } of this.#borders ?? []) {
      line.visible = selected;
      (line.material as LineMaterial).color.set(colour);
    }
    this.#drawBorders();
  }

  #makeBorders(): { loop: number[]; line: Line2 }[] {
    return borderLoops(topology(this.#mesh)).map((loop) => {
      const line = new Line2(new LineGeometry(), stitchMaterial());
      line.frustumCulled = false;
      this.group.add(line);
      return { loop: [...loop, loop[0]!], line };
    });
  }

  #drawBorders(): void {
    for (const { loop, line } of this.#borders ?? []) {
      if (!line.visible || this.#positions.length === 0) continue;
      line.geometry.setPositions(loop.flatMap((point) => [...this.#positions.subarray(point * 3, point * 3 + 3)]));
      line.computeLineDistances();
    }
  }

  #colour(): void {
    if (this.#mode === 'print' && !this.#mask) return;
    const attribute = this.#geometry.getAttribute('color') as BufferAttribute;
    const colours = attribute.array as Float32Array;
    if (this.#mask) paintMask(this.#mask, colours);
    else if (this.#mode === 'stretch') {
      this.#flat ??= flatAtFrame(this.#cloth, this.#assets, this.#frame);
      const stretch = pointStretch(this.#positions, this.#mesh.triangles, this.#flat);
      const colour = new Color();
      stretch.forEach((value, point) => stretchColour(value, colour).toArray(colours, point * 3));
    } else {
      new Color('#E9E2D2').toArray(colours, 0);
      for (let i = 3; i < colours.length; i++) colours[i] = colours[i - 3]!;
    }
    attribute.needsUpdate = true;
  }

  /** The mesh's edges, sharing the positions of the surface. */
  #makeWires(): LineSegments {
    const { edgePoints } = topology(this.#mesh);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', this.#geometry.getAttribute('position'));
    geometry.setIndex(new BufferAttribute(edgePoints, 1));
    const material = new LineBasicMaterial({ color: '#4A5162', transparent: true, opacity: 0.55 });
    const wires = new LineSegments(geometry, material);
    wires.frustumCulled = false;
    this.group.add(wires);
    return wires;
  }

  dispose(): void {
    this.#printed = null;
    this.#print.map?.dispose();
    this.#geometry.dispose();
    this.#instead?.geometry.dispose();
    this.#wires?.geometry.dispose();
    const materials: Material[] = [this.#print, this.#plain];
    if (this.#wires) materials.push(this.#wires.material as Material);
    for (const { line } of this.#borders ?? []) {
      line.geometry.dispose();
      materials.push(line.material);
    }
    for (const material of materials) material.dispose();
  }
}

const MASK_NONE = new Color('#E4DCCB');
const MASK_FULL = new Color('#2F4A7D');

/** Linen where a mask is 0 %, indigo where it is 100 %. */
function paintMask(mask: Uint8Array, colours: Float32Array): void {
  const { r, g, b } = MASK_NONE;
  const [dr, dg, db] = [MASK_FULL.r - r, MASK_FULL.g - g, MASK_FULL.b - b];
  for (let point = 0; point < colours.length / 3; point++) {
    const share = (mask[point] ?? 0) / 255;
    colours[point * 3] = r + dr * share;
    colours[point * 3 + 1] = g + dg * share;
    colours[point * 3 + 2] = b + db * share;
  }
}
