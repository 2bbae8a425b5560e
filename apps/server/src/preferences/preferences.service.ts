import type { ModelPreferences } from '@bathyscope/contracts';
import { Injectable } from '@nestjs/common';
import { ModelsService } from '../models/models.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { PreferencesRepository } from './preferences.repository.ts';

@Injectable()
export class PreferencesService {
  constructor(
    private readonly preferences: PreferencesRepository,
    private readonly models: ModelsService,
  ) {}

  async settings(profile: string | null): Promise<Record<string, unknown> | null> {
    return profile === null ? null : this.preferences.settings(profile);
  }

  saveSettings(profile: string, values: Record<string, unknown>): Promise<void> {
    return this.preferences.saveSettings(profile, values);
  }

  async ofModel(modelId: string): Promise<ModelPreferences> {
    await this.models.require(modelId);
    return this.preferences.ofModel(modelId);
  }

  /** @throws ProblemException (409) when someone changed them meanwhile */
  async saveOfModel(profile: string, modelId: string, values: Record<string, unknown>, version: number): Promise<number> {
    await this.models.require(modelId);
    const now = await this.preferences.saveOfModel(profile, modelId, values, version);
    if (now === null)
      throw new ProblemException(
        409,
        'Changed meanwhile',
        'What is kept of this model was changed by someone else meanwhile. Read it again, put your change to it, and send it once more.',
      );
    return now;
  }
}
