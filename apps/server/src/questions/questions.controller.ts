import { setMaxListeners } from 'node:events';
import { Body, Controller, HttpCode, Param, Post, Res } from '@nestjs/common';
import { ApiBody, ApiOperation, ApiParam, ApiTags } from '@nestjs/swagger';
import { QUESTIONS } from '@bathyscope/kernel';
import type { Response } from 'express';
import { IdParam, RevisionParam } from '../http/id-param.ts';
import { KnownProfile } from '../profiles/profile-param.ts';
import { QuestionsService } from './questions.service.ts';

@ApiTags('questions')
@Controller('models/:id/revisions/:revision/questions')
export class QuestionsController {
  constructor(private readonly questions: QuestionsService) {}

  @Post(':name')
  @HttpCode(200)
  @ApiOperation({
    summary: `Ask the kernel about a revision of a model; never waits for a conversion. ${Object.entries(
      QUESTIONS,
    )
      .map(([name, q]) => `${name}: ${q.summary}.`)
      .join(' ')}`,
    description:
      'Components are named by their paths in the structure, which `GET /api/models/{id}/revisions/{revision}` gives. For instance: `curl -d \'{"normal":[0,0,1],"constant":10,"components":["./Spool group/Spool"]}\' -H "Content-Type: application/json" http://localhost:4600/api/models/ID/revisions/2/questions/section`',
  })
  @ApiParam({ name: 'name', enum: Object.keys(QUESTIONS) })
  @ApiBody({
    schema: { type: 'object' },
    examples: Object.fromEntries(
      Object.entries(QUESTIONS).map(([name, q]) => [name, { summary: q.summary, value: q.example }]),
    ),
  })
  ask(
    @KnownProfile() profile: string | null,
    @IdParam() id: string,
    @RevisionParam() revision: number,
    @Param('name') name: string,
    @Body() body: unknown,
    @Res({ passthrough: true }) response: Response,
  ): Promise<unknown> {
    const gone = new AbortController();
    // Every subtask of a question listens.
    setMaxListeners(0, gone.signal);
    response.once(
      'close',
      () => response.writableFinished || gone.abort(new Error('Nobody waits for the answer.')),
    );
    const asker = profile ?? response.req.ip ?? '';
    return this.questions.ask(asker, id, revision, name, body, gone.signal);
  }
}
