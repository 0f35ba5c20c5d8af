import { linearLight } from '../../print/linearLight';
import { isOnce, printPlace } from '../../print/printPlace';
import type { Print } from '../../shot/things';
import type { UsdPrim } from './layer';

/** The look of a printed cloth at `path`, as the preview surface of USD has it: its picture, repeated and placed on the material coordinates. */
export function printMaterial(print: Print, file: string, path: string): UsdPrim {
  const { scale, turn, move } = printPlace(print);
  const wrap = isOnce(print) ? 'clamp' : 'repeat';
  const cutOut: UsdPrim['attributes'] = print.cutOut
    ? [
        { name: 'inputs:opacity', type: 'float', value: 1, from: `${path}/Picture.outputs:a` },
        { name: 'inputs:opacityThreshold', type: 'float', value: 0.5 },
      ]
    : [];
  const shader = (name: string, id: string, attributes: UsdPrim['attributes']): UsdPrim => ({
    ...{ name, type: 'Shader' },
    attributes: [{ name: 'info:id', type: 'token', uniform: true, value: id }, ...attributes],
  });
  return {
    name: path.split('/').at(-1)!,
    type: 'Material',
    attributes: [{ name: 'outputs:surface', type: 'token', from: `${path}/Surface.outputs:surface` }],
    children: [
      shader('Surface', 'UsdPreviewSurface', [
        {
          name: 'inputs:diffuseColor',
          type: 'color3f',
          value: linearLight(print.colour),
          from: `${path}/Picture.outputs:rgb`,
        },
        ...cutOut,
        { name: 'inputs:roughness', type: 'float', value: print.waxed ? 0.66 : 0.92 },
        { name: 'outputs:surface', type: 'token' },
      ]),
      shader('Picture', 'UsdUVTexture', [
        { name: 'inputs:file', type: 'asset', value: file },
        { name: 'inputs:sourceColorSpace', type: 'token', value: 'sRGB' },
        { name: 'inputs:st', type: 'float2', from: `${path}/Place.outputs:result` },
        { name: 'inputs:wrapS', type: 'token', value: wrap },
        { name: 'inputs:wrapT', type: 'token', value: wrap },
        { name: 'outputs:rgb', type: 'color3f' },
        ...(print.cutOut ? [{ name: 'outputs:a', type: 'float' } as const] : []),
      ]),
      shader('Place', 'UsdTransform2d', [
        { name: 'inputs:in', type: 'float2', from: `${path}/Coordinates.outputs:result` },
        { name: 'inputs:rotation', type: 'float', value: (turn * 180) / Math.PI },
        { name: 'inputs:scale', type: 'float2', value: [scale, scale] },
        { name: 'inputs:translation', type: 'float2', value: move },
        { name: 'outputs:result', type: 'float2' },
      ]),
      shader('Coordinates', 'UsdPrimvarReader_float2', [
        { name: 'inputs:varname', type: 'string', value: 'st' },
        { name: 'outputs:result', type: 'float2' },
      ]),
    ],
  };
}
