import { storedPlacement } from '../picking/placed-points.ts';
import { startMassWorker } from '../../workers/start-mass-worker.ts';
import type { MassJob, MassJobs, MassReply, MassRequest } from '../../workers/mass-work.ts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { RayMesh } from '@bathyscope/core/mass';
import type { Workspace } from '../workspace.ts';

/**
 * Has a worker do what goes through all triangles. Of one kind of work only the newest counts: what was asked
 * before is given up.
 * @param take hears the answer; what went wrong is said, and heard as null
 */
export function askMass<J extends MassJob>(
  ws: Workspace,
  job: J,
  asked: MassJobs[J]['asked'],
  take: (answered: MassJobs[J]['answered'] | null) => void,
): void {
  stopMass(ws, job);
  const worker = startMassWorker();
  ws.players.massWorkers.set(job, worker);
  const end = (answered: MassJobs[J]['answered'] | null, wrong?: string) => {
    if (ws.players.massWorkers.get(job) === worker) stopMass(ws, job);
    if (wrong) ws.notify.error(`This could not be worked out: ${wrong}`, { id: 'mass' });
    take(answered);
  };
  worker.onmessage = ({ data }: MessageEvent<MassReply<J>>) =>
    'error' in data ? end(null, data.error) : end(data.answered);
  worker.onerror = (e) => end(null, e.message || 'the model is too large for it.');
  worker.postMessage({ job, asked } satisfies MassRequest<J>);
}

export function stopMass({ players }: Workspace, job: MassJob): void {
  players.massWorkers.get(job)?.terminate();
  players.massWorkers.delete(job);
}

/** Triangles of faces that are not flat, one flag each: only there a mesh may lie beside its shape. */
function roundTriangles({ faces, mesh: { faceStart } }: PartGeometry): Uint8Array {
  const flags = new Uint8Array(faceStart.at(-1) ?? 0);
  faces.forEach((face, f) => {
    if (face.surface !== 'plane' || face.accuracy.kind !== 'exact')
      flags.fill(1, faceStart[f], faceStart[f + 1]);
  });
  return flags;
}

/** Components with their geometry and the placement of its stored positions. */
export function placedMeshesOf(
  ws: Workspace,
  paths: Iterable<string>,
): (RayMesh & { path: string; geometry: PartGeometry })[] {
  const { byPath, parts } = ws.model.getState();
  return [...paths].flatMap((path) => {
    const { part, placement } = byPath.get(path) ?? {};
    const geometry = part === undefined ? undefined : parts.get(part)?.geometry;
    if (!geometry || !placement) return [];
    const { positions, indices } = geometry.mesh;
    const place = storedPlacement(placement, geometry.origin);
    return [
      {
        path,
        geometry,
        positions,
        indices,
        place,
        chord: geometry.chordTolerance,
        round: roundTriangles(geometry),
      },
    ];
  });
}
