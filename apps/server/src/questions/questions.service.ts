import { Injectable } from '@nestjs/common';
import type { DistanceResult, ExactCut } from '@bathyscope/contracts';
import type { DistanceRequest, PickedThing, SectionRequest } from '@bathyscope/contracts/requests';
import { componentsOf, listOccurrences } from '@bathyscope/core';
import { cuttingFrame, type CuttingFrame, type PlacedShape, type ShapeSection } from '@bathyscope/kernel';
import { GeometriesRepository } from '../geometries/geometries.repository.ts';
import { KernelStopped } from '../kernel/kernel-thread.ts';
import { KernelService } from '../kernel/kernel.service.ts';
import { ModelsService } from '../models/models.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';

/** ms that one exact cut may take: threaded parts take half a second, worse ones are answered from the mesh. */
const CUT_LIMIT = 15_000;

/** Questions to the kernel about a model that is on the screen. */
@Injectable()
export class QuestionsService {
  constructor(
    private readonly models: ModelsService,
    private readonly kernel: KernelService,
    private readonly geometries: GeometriesRepository,
  ) {}

  async distance(modelId: string, { a, b }: DistanceRequest): Promise<DistanceResult> {
    const model = await this.models.find(modelId);
    const components = new Map(componentsOf(listOccurrences(model.structure)).map((c) => [c.path, c]));
    const place = (thing: PickedThing): PlacedShape => {
      const component = components.get(thing.component);
      const hash = component && model.structure.parts[component.part].geometry;
      if (!component || !hash) throw notFound('component');
      return { hash, kind: thing.kind, index: thing.index ?? 0, placement: component.placement };
    };
    try {
      return { ...(await this.kernel.distance(place(a), place(b), (hash) => this.shapeOf(hash))), accuracy: 'exact' };
    } catch (error) {
      if (error instanceof ProblemException) throw error;
      throw new ProblemException(422, 'No distance', `The least distance could not be found: ${error instanceof Error ? error.message : String(error)}`);
    }
  }

  /** Exact cuts, in the order asked; components of one part that lie alike to the plane are cut once. */
  async section(modelId: string, { normal, constant, up, components }: SectionRequest): Promise<ExactCut[]> {
    const length = Math.hypot(...normal);
    if (Math.abs(length - 1) > 1e-6) throw new ProblemException(400, 'No plane', 'The normal of the plane must have length 1.');
    const model = await this.models.find(modelId);
    const placed = new Map(componentsOf(listOccurrences(model.structure)).map((c) => [c.path, c]));
    const done = new Map<string, ShapeSection | string>();
    const cuts: ExactCut[] = [];
    for (const path of components) {
      const component = placed.get(path);
      const hash = component && model.structure.parts[component.part].geometry;
      if (!component || !hash) throw notFound('component');
      const frame = cuttingFrame({ normal, constant, up }, component.placement);
      const key = `${hash} ${JSON.stringify(frame, (_, x: unknown) => (typeof x === 'number' ? Math.round(x * 1e9) : x))}`;
      const found = done.get(key) ?? (await this.cut(hash, frame));
      done.set(key, found);
      cuts.push(typeof found === 'string' ? { component: path, failed: found } : { component: path, ...found });
    }
    return cuts;
  }

  private async cut(hash: string, frame: CuttingFrame): Promise<ShapeSection | string> {
    try {
      return await this.kernel.section(hash, frame, CUT_LIMIT, (h) => this.shapeOf(h));
    } catch (error) {
      if (error instanceof ProblemException) throw error;
      return error instanceof KernelStopped ? 'the exact cut took too long' : 'the kernel found no exact cut';
    }
  }

  private async shapeOf(hash: string): Promise<Uint8Array> {
    const shape = await this.geometries.shape(hash);
    if (!shape) throw notFound('geometry');
    return shape;
  }
}
