import { Module } from '@nestjs/common';
import { ModelsModule } from '../models/models.module.ts';
import { PreferencesController } from './preferences.controller.ts';
import { PreferencesRepository } from './preferences.repository.ts';

@Module({ imports: [ModelsModule], controllers: [PreferencesController], providers: [PreferencesRepository] })
export class PreferencesModule {}
