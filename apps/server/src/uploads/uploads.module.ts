import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module.ts';
import { ModelsModule } from '../models/models.module.ts';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { BlobsRepository } from '../storage/blobs.repository.ts';
import { DemoService } from './demo.service.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';
import { UploadsController } from './uploads.controller.ts';
import { UploadsService } from './uploads.service.ts';

@Module({
  imports: [JobsModule, ModelsModule, ProfilesModule],
  controllers: [UploadsController],
  providers: [UploadsService, DemoService, BlobsRepository, SourcesRepository],
})
export class UploadsModule {}
