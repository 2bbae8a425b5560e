import { Module } from '@nestjs/common';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { ModelsModule } from './models.module.ts';
import { BlobsRepository } from '../storage/blobs.repository.ts';
import { SourcesRepository } from '../storage/sources.repository.ts';
import { RevisionsController } from './revisions.controller.ts';
import { RevisionsService } from './revisions.service.ts';

@Module({
  imports: [ModelsModule, ProfilesModule],
  controllers: [RevisionsController],
  providers: [RevisionsService, SourcesRepository, BlobsRepository],
})
export class RevisionsModule {}
