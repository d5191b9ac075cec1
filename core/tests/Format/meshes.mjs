// Writes the glTF files of the tests by a writer that is not ours: node core/tests/Format/meshes.mjs
import { Accessor, Document, NodeIO, VertexLayout } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization } from '@gltf-transform/extensions';
import draco3d from 'draco3dgltf';
import { MeshoptEncoder } from 'meshoptimizer';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const folder = fileURLToPath(new URL('./meshes/', import.meta.url));
await MeshoptEncoder.ready;
const io = new NodeIO().registerExtensions([EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization]).registerDependencies({
	'draco3d.encoder': await draco3d.createEncoderModule(),
	'meshopt.encoder': MeshoptEncoder
});

/** A rectangle that looks along +z, from 0, 0 to width, height. */
function rectangle(document, buffer, width, height, { normals = true, sets = 1, material = null, mirrored = false } = {}) {
	const accessor = (type, array) => document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
	const primitive = document.createPrimitive()
		.setIndices(accessor(Accessor.Type.SCALAR, new Uint16Array([0, 1, 2, 0, 2, 3])))
		.setAttribute('POSITION', accessor(Accessor.Type.VEC3, new Float32Array([0, 0, 0, width, 0, 0, width, height, 0, 0, height, 0])));
	if (normals) primitive.setAttribute('NORMAL', accessor(Accessor.Type.VEC3, new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1])));
	for (let set = 0; set < sets; set++) {
		const [w, h] = [(set + 1) * (mirrored ? -1 : 1), set + 1];
		primitive.setAttribute(`TEXCOORD_${set}`, accessor(Accessor.Type.VEC2, new Float32Array([0, h, w, h, w, 0, 0, 0])));
	}
	if (material !== null) primitive.setMaterial(material);
	return primitive;
}

// Three materials, nodes in nodes, scaled, turned and moved.
{
	const document = new Document();
	const buffer = document.createBuffer();
	const [wall, rim, soil] = ['Wall', 'Rim', 'Soil'].map((name) => document.createMaterial(name));
	const mesh = document.createMesh('planter').addPrimitive(rectangle(document, buffer, 1, 1, { material: wall })).addPrimitive(rectangle(document, buffer, 2, 0.5, { material: rim }));
	const other = document.createMesh('bed').addPrimitive(rectangle(document, buffer, 1, 1, { material: soil })).addPrimitive(rectangle(document, buffer, 3, 1, { material: wall }));
	const half = Math.SQRT1_2;
	// A quarter turn about y takes +z to +x.
	const inner = document.createNode('inner').setMesh(other).setRotation([0, half, 0, half]).setScale([2, 2, 2]);
	const outer = document.createNode('outer').setMesh(mesh).setTranslation([10, 0, 0]).addChild(inner);
	document.createScene().addChild(outer);
	io.setVertexLayout(VertexLayout.INTERLEAVED);
	writeFileSync(`${folder}planter.glb`, await io.writeBinary(document));
	io.setVertexLayout(VertexLayout.SEPARATE);

	document.createExtension(KHRDracoMeshCompression).setRequired(true);
	writeFileSync(`${folder}draco.glb`, await io.writeBinary(document));
}
{
	const document = new Document();
	const buffer = document.createBuffer();
	document.createScene().addChild(document.createNode('sheet').setMesh(document.createMesh('sheet').addPrimitive(rectangle(document, buffer, 2, 1, { material: document.createMaterial('Sheet') }))));
	document.createExtension(EXTMeshoptCompression).setRequired(true).setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
	writeFileSync(`${folder}meshopt.glb`, await io.writeBinary(document));
}

// Whole numbers for places, normals, UVs and colours; the node scales them.
{
	const document = new Document();
	document.createExtension(KHRMeshQuantization).setRequired(true);
	const buffer = document.createBuffer();
	const accessor = (type, array, normalized) => document.createAccessor().setType(type).setArray(array).setNormalized(normalized).setBuffer(buffer);
	const primitive = document.createPrimitive()
		.setIndices(accessor(Accessor.Type.SCALAR, new Uint8Array([0, 1, 2]), false))
		.setAttribute('POSITION', accessor(Accessor.Type.VEC3, new Int16Array([-32767, -32767, 0, 32767, -32767, 0, 32767, 32767, 0]), true))
		.setAttribute('NORMAL', accessor(Accessor.Type.VEC3, new Int8Array([0, 0, 127, 0, 0, 127, 0, 0, 127]), true))
		.setAttribute('TEXCOORD_0', accessor(Accessor.Type.VEC2, new Uint16Array([0, 65535, 65535, 65535, 65535, 0]), true))
		.setAttribute('COLOR_0', accessor(Accessor.Type.VEC3, new Uint8Array([255, 0, 0, 0, 255, 0, 0, 0, 51]), true));
	document.createScene().addChild(document.createNode('quantised').setMesh(document.createMesh().addPrimitive(primitive)).setScale([2, 1, 1]));
	writeFileSync(`${folder}quantised.glb`, await io.writeBinary(document));
}

// Mirrored by its node, without normals, with three sets of UVs, as text with a file beside it.
{
	const document = new Document();
	const buffer = document.createBuffer().setURI('mirrored sheet.bin');
	document.createScene().addChild(document.createNode('mirrored').setScale([-1, 1, 1]).setMesh(document.createMesh().addPrimitive(rectangle(document, buffer, 2, 1, { normals: false, sets: 3 }))));
	const { json, resources } = await io.writeJSON(document);
	writeFileSync(`${folder}mirrored.gltf`, JSON.stringify(json, null, '\t'));
	for (const [name, bytes] of Object.entries(resources)) writeFileSync(folder + decodeURIComponent(name), bytes);
}

// Most of its places are 0, and said only where they are not.
{
	const document = new Document();
	const buffer = document.createBuffer();
	const places = new Float32Array(3 * 100);
	places.set([4, 0, 0], 3 * 50);
	places.set([4, 0, -2], 3 * 51);
	const primitive = document.createPrimitive()
		.setIndices(document.createAccessor().setType(Accessor.Type.SCALAR).setArray(new Uint32Array([0, 50, 51])).setBuffer(buffer))
		.setAttribute('POSITION', document.createAccessor().setType(Accessor.Type.VEC3).setArray(places).setSparse(true).setBuffer(buffer));
	document.createScene().addChild(document.createNode().setMesh(document.createMesh().addPrimitive(primitive)));
	writeFileSync(`${folder}sparse.glb`, await io.writeBinary(document));
}
