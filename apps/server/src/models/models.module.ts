import { Module } from '@nestjs/common';
import { ModelDocuments } from './model-documents.ts';
import { ModelsController } from './models.controller.ts';
import { ModelsRepository } from './models.repository.ts';
import { ModelsService } from './models.service.ts';

@Module({
  controllers: [ModelsController],
  providers: [ModelsRepository, ModelsService, ModelDocuments],
  exports: [ModelsRepository, ModelsService, ModelDocuments],
})
export class ModelsModule {}
