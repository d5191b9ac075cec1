declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
	const create: (options: { locateFile: (file: string) => string }) => Promise<unknown>;
	export default create;
}
