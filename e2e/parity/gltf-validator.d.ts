/** Of the Khronos glTF Validator, which has no types of its own. */
declare module 'gltf-validator' {
	export function validateBytes(bytes: Uint8Array, options: { maxIssues?: number }): Promise<{ issues: { numErrors: number; numWarnings: number; messages: { code: string; message: string; pointer?: string; severity: number }[] } }>;
}
