/** Extensions that pack numbers, and that only their own decoders unpack. */
const PACKED = ['KHR_draco_mesh_compression', 'EXT_meshopt_compression'];

/** What a glTF file says of itself, binary or text; null if it is none. */
export async function described(file: File): Promise<{ extensionsUsed?: string[]; buffers?: { uri?: string }[] } | null> {
	const head = new DataView(await file.slice(0, 20).arrayBuffer());
	const binary = head.byteLength === 20 && head.getUint32(0, true) === 0x46546c67;
	try {
		return JSON.parse(await (binary ? file.slice(20, 20 + head.getUint32(12, true)) : file).text()) as object;
	} catch {
		return null;
	}
}

/** Files as the server reads them: those that are packed by a published codec are unpacked here, by its own decoder. */
export async function unpacked(files: File[]): Promise<File[]> {
	return Promise.all(files.map(async (file) => {
		if (!/\.(glb|gltf)$/i.test(file.name)) return file;
		const found = await described(file);
		return found?.extensionsUsed?.some((name) => PACKED.includes(name)) === true ? unpack(file, found.buffers ?? [], files) : file;
	}));
}

async function unpack(file: File, buffers: { uri?: string }[], beside: File[]): Promise<File> {
	const [{ WebIO }, { EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization, KHRTextureTransform }, { MeshoptDecoder }, draco, { default: wasm }] = await Promise.all([
		import('@gltf-transform/core'), import('@gltf-transform/extensions'), import('meshoptimizer/decoder'), import('draco3dgltf/draco_decoder_gltf_nodejs.js'), import('draco3dgltf/draco_decoder_gltf.wasm?url')
	]);
	await MeshoptDecoder.ready;
	const io = new WebIO().registerExtensions([EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization, KHRTextureTransform]).registerDependencies({
		'meshopt.decoder': MeshoptDecoder,
		'draco3d.decoder': await draco.default({ locateFile: () => wasm })
	});
	const bytes = new Uint8Array(await file.arrayBuffer());
	const binary = new DataView(bytes.buffer).getUint32(0, true) === 0x46546c67;
	const resources = Object.fromEntries(await Promise.all(buffers.flatMap(({ uri }) => {
		const other = uri === undefined ? undefined : beside.find((one) => one.name === decodeURIComponent(uri.split('/').at(-1)!));
		return other === undefined ? [] : [other.arrayBuffer().then((found) => [uri!, new Uint8Array(found)] as const)];
	})));
	const document = binary ? await io.readBinary(bytes) : await io.readJSON({ json: JSON.parse(new TextDecoder().decode(bytes)) as never, resources });
	for (const extension of document.getRoot().listExtensionsUsed()) if (PACKED.includes(extension.extensionName)) extension.dispose();
	// Pictures are not looked at.
	for (const texture of document.getRoot().listTextures()) texture.dispose();
	const out = await io.writeBinary(document);
	return new File([out as Uint8Array<ArrayBuffer>], file.name.replace(/\.gltf$/i, '.glb'));
}
