declare module 'gltf-validator' {
  export function validateBytes(bytes: Uint8Array): Promise<{
    issues: { numErrors: number; numWarnings: number; messages: { code: string; message: string; severity: number }[] };
    info: { animationCount: number; hasMorphTargets: boolean; totalVertexCount: number };
  }>;
}
