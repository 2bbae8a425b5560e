import { Injectable } from '@nestjs/common';
import { QUESTIONS, type Placed, type Question, type QuestionName } from '@bathyscope/kernel';
import { plainToInstance } from 'class-transformer';
import { validate, type ValidationError } from 'class-validator';
import { GeometriesRepository } from '../geometries/geometries.repository.ts';
import { KernelRefusal } from '../kernel/kernel-thread.ts';
import { Answerer, SubtaskFailed } from '../kernel/answerer.ts';
import { ModelDocuments } from '../models/model-documents.ts';
import { badRequest, notFound, ProblemException } from '../problems/problem.ts';

/** Whoever asks is looking at the model, and waits; or has something checked meanwhile. */
const INTERACTIVE = 10;
const BACKGROUND = 1;

/**
 * Questions to the kernel about a model. What may be asked, and how it is answered,
 * is the kernel's map alone.
 */
@Injectable()
export class QuestionsService {
  constructor(
    private readonly documents: ModelDocuments,
    private readonly answerer: Answerer,
    private readonly geometries: GeometriesRepository,
  ) {}

  /**
   * @param asker who asks: several take turns @param signal fires when nobody waits for the answer any more
   */
  async ask(
    asker: string,
    modelId: string,
    revision: number,
    name: string,
    body: unknown,
    signal: AbortSignal,
  ): Promise<unknown> {
    if (!Object.hasOwn(QUESTIONS, name))
      throw new ProblemException(
        404,
        'Not found',
        `There is no question “${name.slice(0, 60)}”. There are: ${Object.keys(QUESTIONS).join(', ')}.`,
      );
    const question = QUESTIONS[name as QuestionName] as unknown as Question<object, unknown>;
    const asked = await readAsked(question, body);
    const placed = await this.documents.placesOf(modelId, revision);
    const subtasks = question.split?.(asked) ?? [asked];
    const answers = await Promise.all(
      subtasks.map((subtask) => this.answer(asker, name as QuestionName, question, subtask, placed, signal)),
    );
    return question.join ? question.join(answers) : answers[0];
  }

  private async answer(
    asker: string,
    name: QuestionName,
    question: Question<object, unknown>,
    asked: object,
    placed: ReadonlyMap<string, Placed>,
    signal: AbortSignal,
  ): Promise<unknown> {
    const places = Object.fromEntries(
      question.components(asked).map((path) => [path, placed.get(path) ?? fail(notFound('component'))]),
    );
    try {
      // Across the border to a thread goes plain data.
      return await this.answerer.ask({
        name,
        asked: structuredClone({ ...asked }),
        places,
        limit: question.limit,
        asker,
        priority: question.background?.(asked) ? BACKGROUND : INTERACTIVE,
        signal,
        shapeOf: (hash) => this.shapeOf(hash),
      });
    } catch (error) {
      if (error instanceof SubtaskFailed) {
        if (question.gaveUp) return question.gaveUp(asked, error.why);
        throw new ProblemException(422, 'No answer', `${question.refusal}: ${error.why}.`);
      }
      if (error instanceof KernelRefusal)
        throw new ProblemException(422, 'No answer', `${question.refusal}: ${error.message}`);
      throw error;
    }
  }

  private async shapeOf(hash: string): Promise<Uint8Array> {
    const shape = await this.geometries.shape(hash);
    if (shape === null) throw new ProblemException(422, 'No answer', MESH_ONLY);
    return shape ?? fail(notFound('geometry'));
  }
}

const MESH_ONLY =
  'This is a mesh: it has no exact surfaces to ask about. Figures of its mesh hold, with their bound.';

const fail = (error: Error): never => {
  throw error;
};

async function readAsked(question: Question<object, unknown>, body: unknown): Promise<object> {
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    throw badRequest('A question is asked by a JSON object.');
  const asked = plainToInstance(question.asked, body);
  const faults = await validate(asked, { whitelist: true });
  if (faults.length) throw badRequest(faults.flatMap(sentencesOf).join(' '));
  return asked;
}

const sentencesOf = (fault: ValidationError): string[] => [
  ...Object.values(fault.constraints ?? {}),
  ...(fault.children ?? []).flatMap(sentencesOf),
];
