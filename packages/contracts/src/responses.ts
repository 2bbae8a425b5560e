import type { ModelStructure, ModelSummary, PlaneCurve, Vec3, ViewState } from '@bathyscope/core';

/** RFC 9457: what every error of the API looks like; `detail` is a sentence the user can act on. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
}

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

/** A long computation: conversion now; clash, hidden lines and exports later. */
export interface JobView {
  id: string;
  kind: 'convert';
  state: JobState;
  /** What is being worked on, for the user: the file's name. */
  subject: string;
  /** Set while there is a model to show or to come. */
  modelId: string | null;
  stage: string;
  /** 0–1 */
  progress: number;
  problem: Problem | null;
  createdAt: string;
}

export interface ModelListItem {
  id: string;
  name: string;
  revision: number;
  fileName: string;
  fileSize: number;
  format: string;
  createdAt: string;
  updatedAt: string;
  state: 'converting' | 'ready';
  /** Changes with the picture; null while there is none. */
  thumbnail: string | null;
  summary: ModelSummary | null;
}

export interface ModelDetail extends ModelListItem {
  schema: string | null;
  lengthUnit: string | null;
  structure: ModelStructure;
  warnings: string[];
}

export interface UploadResult {
  model: ModelListItem;
  job: JobView | null;
  /** True when the same bytes were there already and `model` is that one. */
  duplicate: boolean;
}

export interface DistanceResult {
  /** mm */
  distance: number;
  from: Vec3;
  to: Vec3;
  accuracy: 'exact';
}

/** What a plane cuts of one component, by the kernel; or why there is no exact answer. */
export type ExactCut =
  /** In the axes of core's `planeFrame`; `open` chains do not close. `tolerance` in mm is 0 when all are lines, arcs and ellipses. */
  | { component: string; loops: PlaneCurve[][]; open: number; tolerance: number }
  | { component: string; failed: string };

/** Which parts of a saved view are taken when it is recalled. */
export interface RecallParts {
  camera: boolean;
  projection: boolean;
  visibility: boolean;
  style: boolean;
  section: boolean;
}

export interface SavedView {
  id: string;
  name: string;
  /** The number key that recalls it. */
  slot: number | null;
  recall: RecallParts;
  document: ViewState;
  /** Address of its picture; null while there is none. */
  thumbnail: string | null;
}
