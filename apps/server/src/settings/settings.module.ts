import { Module } from '@nestjs/common';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { SettingsController } from './settings.controller.ts';
import { SettingsRepository } from './settings.repository.ts';

@Module({ imports: [ProfilesModule], controllers: [SettingsController], providers: [SettingsRepository] })
export class SettingsModule {}
