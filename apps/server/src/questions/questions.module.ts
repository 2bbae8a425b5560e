import { Module, type OnApplicationBootstrap } from '@nestjs/common';
import { GeometriesModule } from '../geometries/geometries.module.ts';
import { QuestionThreads } from '../kernel/question-threads.ts';
import { ModelsModule } from '../models/models.module.ts';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { QuestionsController } from './questions.controller.ts';
import { QuestionsService } from './questions.service.ts';

@Module({
  imports: [ModelsModule, GeometriesModule, ProfilesModule],
  controllers: [QuestionsController],
  providers: [QuestionsService, QuestionThreads],
})
export class QuestionsModule implements OnApplicationBootstrap {
  constructor(private readonly threads: QuestionThreads) {}

  onApplicationBootstrap(): void {
    this.threads.warm();
  }
}
