import { Injectable } from '@nestjs/common';
import type { DistanceResult } from '@bathyscope/contracts';
import type { DistanceRequest, PickedThing } from '@bathyscope/contracts/requests';
import { componentsOf, listOccurrences } from '@bathyscope/core';
import type { PlacedShape } from '@bathyscope/kernel';
import { GeometriesRepository } from '../geometries/geometries.repository.ts';
import { KernelService } from '../kernel/kernel.service.ts';
import { ModelsService } from '../models/models.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';

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

  private async shapeOf(hash: string): Promise<Uint8Array> {
    const shape = await this.geometries.shape(hash);
    if (!shape) throw notFound('geometry');
    return shape;
  }
}
