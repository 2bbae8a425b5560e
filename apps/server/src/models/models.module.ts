import { Module } from '@nestjs/common';
import { ModelDocuments } from './model-documents.ts';
import { ModelsController } from './models.controller.ts';
import { ModelsRepository } from './models.repository.ts';
import { ModelsService } from './models.service.ts';
import { RevisionsRepository } from './revisions.repository.ts';

@Module({
  controllers: [ModelsController],
  providers: [ModelsRepository, RevisionsRepository, ModelsService, ModelDocuments],
  exports: [ModelsRepository, RevisionsRepository, ModelsService, ModelDocuments],
})
export class ModelsModule {}
