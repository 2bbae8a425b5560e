import { Module } from '@nestjs/common';
import { ModelsModule } from '../models/models.module.ts';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { RecordsController } from './records.controller.ts';
import { RecordsRepository } from './records.repository.ts';
import { RecordsService } from './records.service.ts';

@Module({
  imports: [ModelsModule, ProfilesModule],
  controllers: [RecordsController],
  providers: [RecordsService, RecordsRepository],
})
export class RecordsModule {}
