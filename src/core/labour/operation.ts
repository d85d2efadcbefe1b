/** One step of a work sheet: an operation stripped, done, or put back. */
export type Step = { phase: 'strip' | 'work' | 'refit'; operationId: string };
export const sameStep = (a: Step, b: Step): boolean => a.phase === b.phase && a.operationId === b.operationId;

/** An operation of the access graph. `needs`: all of these, each any of. Minutes are hands-on for one practised technician. */
export type PlannedOperation = {
  id: string;
  title: string;
  refitTitle?: string | undefined;
  kind: 'access' | 'work';
  needs: readonly (readonly string[])[];
  stripMinutes: number;
  refitMinutes: number;
  /** Waiting after the work, not labour: sealant, soaking. */
  elapsedHours: number;
  tools: readonly string[];
  /** Of these, the ones that the shop has not got. */
  lacks?: readonly string[];
  consumables: readonly { id: string; quantity: number }[];
  people: number;
  cautions: readonly string[];
  noReturn?: string | undefined;
  /** The state that it brings the machine to. */
  power?: 'on' | 'off' | undefined;
  water?: 'open' | 'shut' | undefined;
  posture?: 'upright' | 'leaning' | 'back' | 'face' | undefined;
  /** It opens the tub. */
  opensTub?: 'yes' | undefined;
  /** Water comes out. */
  wet?: 'yes' | undefined;
  rescue?: string | undefined;
  rescueChance: number;
  rescueMinutes: number;
};
