import { Module } from '@nestjs/common';
import { ModelsModule } from '../models/models.module.ts';
import { PreferencesController } from './preferences.controller.ts';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { PreferencesService } from './preferences.service.ts';
import { PreferencesRepository } from './preferences.repository.ts';

@Module({
  imports: [ModelsModule, ProfilesModule],
  controllers: [PreferencesController],
  providers: [PreferencesService, PreferencesRepository],
})
export class PreferencesModule {}
