import type { Cause, Knowledge, Model, Platform, Proof, Role, RoleProperty } from '../catalogue';
import type { WorkSheet } from '../bench';
import type { CauseRanking, NextStep } from '../diagnose';
import type { SerialReading } from '../identify';
import type { WorkPlan } from '../labour';
import type { Quote } from '../quote';
import type { Waiting } from '../ticket';
import type { Instant, LocalDate } from '../units';
import type { Worth } from '../worth';
import type { RepairOption } from './options';
import type { CauseParts } from './pricing';

export const STATIONS = ['plate', 'findings', 'part', 'worth', 'order', 'bench', 'proof'] as const;
export type Station = (typeof STATIONS)[number];

export type DoNext =
  | { kind: 'read-plate' }
  | { kind: 'note-findings' }
  | { kind: 'step'; step: NextStep }
  | { kind: 'decide-cause'; causeId: string; probability: number }
  | { kind: 'choose-part'; causeId: string }
  | { kind: 'offer-quote' }
  | { kind: 'ring-customer' }
  | { kind: 'order-parts'; count: number }
  | { kind: 'await-parts'; dueOn: LocalDate | null }
  | { kind: 'work'; key: string; title: string; minutes: number }
  | { kind: 'wait-cure'; until: Instant }
  | { kind: 'finish-bench' }
  | { kind: 'prove'; proof: Proof }
  | { kind: 'tell-ready' }
  | { kind: 'hand-over' }
  | { kind: 'close'; outcome: 'repaired' | 'declined' | 'not-mendable' }
  | { kind: 'closed' };

export type Age = {
  years: number;
  from: number;
  to: number;
  source: 'serial' | 'receipt' | 'production';
  serial: SerialReading | null;
};

/** The rows without the look-up functions: an assessment crosses from a worker as plain data. */
export type KnowledgeRows = Omit<Knowledge, 'findingLikelihood' | 'outcomeLikelihood'>;

/** Everything the sheet and the scale say about one ticket. */
export type Assessment = {
  station: Station | 'done';
  waiting: Waiting;
  doNext: DoNext;
  model: Model | null;
  platform: Platform | null;
  age: Age | null;
  knowledge: KnowledgeRows | null;
  ranking: CauseRanking | null;
  steps: NextStep[];
  /** The cause the rest is computed for: decided, or the likeliest so far. */
  cause: Cause | null;
  causeProbability: number;
  decided: boolean;
  parts: CauseParts | null;
  /** For a plate in doubt: whether the probable models need different numbers for this job. null when the plate is settled. */
  doubtMatters: boolean | null;
  roleProperties: readonly RoleProperty[];
  partProperties: Readonly<Record<string, Readonly<Record<string, string>>>>;
  options: RepairOption[];
  quote: Quote | null;
  /** 10–90 % range of what it may cost while the cause is open; major units, tax included. */
  quoteRange: { low: number; high: number; expected: number } | null;
  worth: Worth | null;
  plan: WorkPlan | null;
  sheet: WorkSheet | null;
  proofs: { proof: Proof; passed: boolean | null }[];
  readyOn: LocalDate | null;
  roles: readonly Role[];
  /** Part numbers by id, for the chains of reasons. */
  partNumbers: Record<string, string>;
};
