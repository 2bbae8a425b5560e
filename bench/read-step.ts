import fs from 'node:fs';
import { brotliCompressSync, constants } from 'node:zlib';
import { encodeGeometry } from '@bathyscope/contracts';
import {
  compileKernel,
  convertStep,
  loadKernel,
  type ConvertedGeometry,
  type LoadedKernel,
} from '@bathyscope/kernel';
import { publicFile } from '../packages/kernel/src/testing/public-file.ts';
import { medianTime, report } from './report.ts';

/*
 * Budget: reading, meshing and describing a STEP file against the bare kernel calls that read and mesh it;
 * bytes per triangle as stored.
 */

const FILES = ['as1-oc-214.stp', 'dm1-id-214.stp', 'io1-cm-214.stp'];
const RUNS = 3;

/** Read, transfer and mesh with the kernel alone, at the same fineness, with nothing taken out. */
function bare({ oc, takeMessages }: LoadedKernel, bytes: Uint8Array): void {
  oc.FS.writeFile('/bench.step', bytes);
  const reader = new oc.STEPControl_Reader_1();
  reader.ReadFile('/bench.step');
  const progress = new oc.Message_ProgressRange_1();
  reader.TransferRoots(progress);
  const shape = reader.OneShape();
  const mesher = new oc.BRepMesh_IncrementalMesh_2(shape, 5e-4, true, (12 * Math.PI) / 180, false);
  mesher.delete();
  progress.delete();
  reader.delete();
  oc.FS.unlink('/bench.step');
  takeMessages();
}

export async function benchReadStep(): Promise<void> {
  const kernel = await loadKernel(await compileKernel());
  for (const name of FILES) {
    const bytes = fs.readFileSync(publicFile(name));
    let geometries: ConvertedGeometry[] = [];
    const ours = () => {
      geometries = [];
      convertStep(kernel, bytes, name, { onGeometry: (g) => geometries.push(g) });
    };
    bare(kernel, bytes);
    ours();
    report(
      `${name}: read, mesh and describe`,
      medianTime(RUNS, ours) / medianTime(RUNS, () => bare(kernel, bytes)),
      '×',
      'bare kernel read + mesh',
    );
    const stored = geometries.reduce(
      (sum, g) =>
        sum +
        brotliCompressSync(encodeGeometry(g.geometry), { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } })
          .byteLength,
      0,
    );
    const triangles = geometries.reduce((sum, g) => sum + g.geometry.mesh.indices.length / 3, 0);
    report(
      `${name}: stored geometry`,
      stored / triangles,
      'bytes/triangle',
      '36 bytes/triangle as bare positions',
    );
  }
}
