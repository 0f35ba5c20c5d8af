/** What three’s readers of Universal Scene Description give before a scene is made of it: fields by path. */
declare module 'three/addons/loaders/usd/*.js' {
  interface Specs {
    specsByPath: Record<string, { specType: number; fields: Record<string, unknown> }>;
  }
  export class USDAParser {
    parseData(text: string): Specs;
  }
  export class USDCParser {
    parseData(bytes: ArrayBuffer): Specs;
  }
}
