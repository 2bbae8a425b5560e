import { encodeGeometry, type ModelDetail } from '@bathyscope/contracts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { ModelStructure, StructureNode } from '@bathyscope/core/model';
import { compileKernel, describePart, loadKernel } from '@bathyscope/kernel';

const PARTS = 60;
const COMPONENTS = 5000;
const ROW = 25;
const PITCH = 30;

/** An invented assembly of 5,000 components of 60 parts: blocks, pins and rings, each with a bore. */
export async function bigModel(): Promise<{
  detail: ModelDetail;
  containers: Map<string, Uint8Array>;
  parts: PartGeometry[];
}> {
  const { oc } = await loadKernel(await compileKernel());
  const parts = Array.from({ length: PARTS }, (_, i) => {
    const size = 8 + (i % 12);
    const outer =
      i % 3 === 0
        ? new oc.BRepPrimAPI_MakeBox_2(size, size + 2, 6 + (i % 7)).Shape()
        : new oc.BRepPrimAPI_MakeCylinder_3(
            new oc.gp_Ax2_3(new oc.gp_Pnt_3(size / 2, size / 2, 0), new oc.gp_Dir_4(0, 0, 1)),
            size / 2,
            6 + (i % 9),
          ).Shape();
    const bore = new oc.BRepPrimAPI_MakeCylinder_3(
      new oc.gp_Ax2_3(new oc.gp_Pnt_3(size / 2, size / 2, -1), new oc.gp_Dir_4(0, 0, 1)),
      size / 5,
      40,
    ).Shape();
    return describePart(oc, new oc.BRepAlgoAPI_Cut_3(outer, bore, new oc.Message_ProgressRange_1()).Shape());
  });
  const children: StructureNode[] = Array.from({ length: COMPONENTS }, (_, i) => ({
    name: `Block ${i % PARTS}`,
    part: i % PARTS,
    placement: [
      1,
      0,
      0,
      0,
      0,
      1,
      0,
      0,
      0,
      0,
      1,
      0,
      (i % ROW) * PITCH,
      (Math.floor(i / ROW) % ROW) * PITCH,
      Math.floor(i / ROW / ROW) * PITCH,
      1,
    ],
  }));
  const structure: ModelStructure = {
    root: { name: 'Bench rack', placement: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], children },
    parts: parts.map((_, i) => ({ name: `Block ${i}`, geometry: `bench${i}` })),
  };
  const at = new Date(0).toISOString();
  const detail: ModelDetail = {
    id: '00000000-0000-4000-8000-0000000000be',
    name: 'Bench rack',
    revision: 1,
    newest: 1,
    fileName: 'bench.step',
    fileSize: 0,
    format: 'STEP',
    createdAt: at,
    updatedAt: at,
    state: 'ready',
    thumbnail: null,
    summary: null,
    schema: null,
    lengthUnit: 'mm',
    structure,
    warnings: [],
    tags: [],
  };
  return { detail, containers: new Map(parts.map((p, i) => [`bench${i}`, encodeGeometry(p)])), parts };
}
