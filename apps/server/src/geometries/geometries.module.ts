import { Module } from '@nestjs/common';
import { GeometriesController } from './geometries.controller.ts';
import { GeometriesRepository } from './geometries.repository.ts';

@Module({
  controllers: [GeometriesController],
  providers: [GeometriesRepository],
  exports: [GeometriesRepository],
})
export class GeometriesModule {}
