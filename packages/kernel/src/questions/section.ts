import { UNIT_LENGTH } from '@bathyscope/core/tolerances';
import type { Vec3 } from '@bathyscope/core/math';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsNumber,
  IsOptional,
  IsString,
  ValidateBy,
} from 'class-validator';
import { cuttingFrame, NoSection } from '../sections/cutting-frame.ts';
import { type ShapeSection } from '../sections/section-shape.ts';
import { question } from './question.ts';

const IsUnitVector = (): PropertyDecorator =>
  ValidateBy({
    name: 'isUnitVector',
    validator: {
      validate: (v: unknown) =>
        Array.isArray(v) && v.length === 3 && Math.abs(Math.hypot(...(v as number[])) - 1) <= UNIT_LENGTH,
      defaultMessage: () => 'The normal of the plane has three numbers and must have length 1.',
    },
  });

/** A plane, and the components whose exact cut by it is wanted. */
export class SectionAsked {
  /** Unit; towards what is removed. */
  @IsArray()
  @ArrayMinSize(3)
  @ArrayMaxSize(3)
  @IsNumber({}, { each: true, message: 'The normal of the plane has three numbers.' })
  @IsUnitVector()
  normal!: Vec3;

  /** mm: points p with normal · p = constant. */
  @IsNumber({}, { message: 'The plane needs its distance from the origin.' })
  constant!: number;

  /** The model's up axis, which tells the axes that the cut is told in. */
  @IsOptional()
  @IsIn(['y', 'z'], { message: 'Either y or z is up.' })
  up?: 'y' | 'z';

  @IsArray({ message: 'A section names the components to cut.' })
  @ArrayMaxSize(200, { message: 'Exact cuts are answered for 200 components at a time.' })
  @IsString({ each: true })
  components!: string[];
}

/** What a plane cuts of one component; or why there is no exact answer. */
export type ExactCut =
  /** In the axes of core's `planeFrame`. */
  ({ component: string } & ShapeSection) | { component: string; failed: string };

export const section = question<SectionAsked, ExactCut[]>({
  asked: SectionAsked,
  summary:
    'The exact outlines that a plane cuts of components, in the axes that core’s planeFrame gives the plane',
  example: { normal: [0, 0, 1], constant: 10, components: ['./Body group/Valve body'] },
  components: (asked) => asked.components,
  // Threaded parts take half a second; worse ones are answered from the mesh.
  limit: 15_000,
  split: (asked) => asked.components.map((component) => ({ ...asked, components: [component] })),
  join: (answers) => answers.flat(),
  answer: ({ normal, constant, up, components }, places, session) =>
    components.map((component) => {
      const { hash, placement } = places[component];
      try {
        return { component, ...session.section(hash, cuttingFrame({ normal, constant, up }, placement)) };
      } catch (error) {
        if (error instanceof NoSection) return { component, failed: error.message };
        throw error;
      }
    }),
  gaveUp: ({ components }, why) =>
    components.map((component) => ({
      component,
      failed: why === 'it took too long' ? 'the exact cut took too long' : 'the kernel found no exact cut',
    })),
  refusal: 'The section could not be cut',
});
