import type { OwnMaterial } from '@bathyscope/contracts';
import { Injectable } from '@nestjs/common';
import { ProblemException } from '../problems/problem.ts';
import { MaterialsRepository } from './materials.repository.ts';

const UNIQUE_VIOLATION = '23505';

@Injectable()
export class MaterialsService {
  constructor(private readonly materials: MaterialsRepository) {}

  list(): Promise<OwnMaterial[]> {
    return this.materials.list();
  }

  /** @throws ProblemException (409) when another one has the name */
  async save(profile: string, material: OwnMaterial): Promise<void> {
    if (await this.materials.isTaken(material.name, material.id)) throw taken(material.name);
    try {
      await this.materials.save(profile, material);
    } catch (error) {
      // Two may take a name at the same time.
      if ((error as { code?: string }).code === UNIQUE_VIOLATION) throw taken(material.name);
      throw error;
    }
  }

  remove(id: string): Promise<void> {
    return this.materials.remove(id);
  }
}

const taken = (name: string): ProblemException =>
  new ProblemException(
    409,
    'Name taken',
    `There is a material “${name}” already. Change that one, or choose another name.`,
  );
