import { awaited, unordered, type TicketState } from '../ticket';
import { addDays, laterOf, localDateOf, type Instant, type LocalDate } from '../units';
import type { WorkSheet } from '../bench';
import type { Assessment, DoNext } from './assessment';
import type { RepairOption } from './options';
import type { Settings } from './settings';

/** What the proposal is made from. */
export type StageFacts = Pick<
  Assessment,
  'waiting' | 'ranking' | 'steps' | 'cause' | 'causeProbability' | 'parts' | 'sheet' | 'proofs'
> & { settings: Settings; now: Instant };

const next = (station: Assessment['station'], doNext: DoNext) => ({ station, doNext });

/** Which station is in work, and the one thing to do now. Nothing forces the order: this is a proposal. */
export function stageOf(state: TicketState, body: StageFacts): Pick<Assessment, 'station' | 'doNext'> {
  if (state.closed) return next('done', { kind: 'closed' });
  if (state.answer?.answer === 'no')
    return next('proof', state.handedOverAt ? { kind: 'close', outcome: 'declined' } : { kind: 'hand-over' });
  if (!state.cause) {
    const told =
      state.findings.some((finding) => finding.answer === 'yes') || state.codes.length > 0 || state.checks.length > 0;
    if (!told) return next('findings', { kind: 'note-findings' });
    return next('findings', nextFinding(body));
  }
  const needsParts = body.parts !== null && (body.parts.main !== null || body.parts.companions.length > 0);
  if (needsParts && state.partsFor !== state.cause.causeId)
    return next('part', { kind: 'choose-part', causeId: state.cause.causeId });
  if (!state.quoted) return next('worth', { kind: 'offer-quote' });
  if (!state.answer || state.answer.answer === 'thinking') return next('worth', { kind: 'ring-customer' });
  const open = unordered(state);
  if (open.length > 0) return next('order', { kind: 'order-parts', count: open.length });
  const coming = awaited(state);
  if (coming.length > 0)
    return next('order', { kind: 'await-parts', dueOn: body.waiting.for === 'parts' ? body.waiting.dueOn : null });
  if (!state.benchFinishedAt) return next('bench', benchStep(body));
  const failedOrOpen = body.proofs.find((entry) => entry.passed !== true);
  if (failedOrOpen) return next('proof', { kind: 'prove', proof: failedOrOpen.proof });
  if (!state.readyToldAt) return next('proof', { kind: 'tell-ready' });
  return next('proof', state.handedOverAt ? { kind: 'close', outcome: 'repaired' } : { kind: 'hand-over' });
}

/** Check on while a check is cheaper than mending on what is known; then settle on what is best mended first. */
function nextFinding({ steps, cause, causeProbability, ranking, settings }: StageFacts): DoNext {
  const best = steps[0];
  const certain = causeProbability >= settings.enoughCertainty;
  if (best && (best.kind === 'escalate' || (best.kind === 'check' && !certain))) return { kind: 'step', step: best };
  const causeId = best?.kind === 'fix' && !certain ? best.id : cause?.id;
  const probability = ranking?.causes.find((entry) => entry.causeId === causeId)?.probability ?? 0;
  return causeId === undefined ? { kind: 'note-findings' } : { kind: 'decide-cause', causeId, probability };
}

function benchStep(body: StageFacts): DoNext {
  const step = body.sheet?.sections
    .flatMap((section) => section.steps)
    .find((entry) => entry.key === body.sheet?.nextKey);
  if (body.sheet?.waitUntil && body.sheet.waitUntil > body.now)
    return { kind: 'wait-cure', until: body.sheet.waitUntil };
  return step ? { kind: 'work', key: step.key, title: step.title, minutes: step.minutes } : { kind: 'finish-bench' };
}

export function readyOn(
  state: TicketState,
  options: readonly RepairOption[],
  sheet: WorkSheet | null,
  today: LocalDate,
  zone: string,
): LocalDate | null {
  if (state.readyToldAt) return localDateOf(state.readyToldAt, zone);
  if (state.benchFinishedAt) return today;
  const chosen = options.find((option) => option.id === state.answer?.optionId) ?? options[0];
  if (!chosen) return null;
  const coming = awaited(state);
  if (state.parts.length > 0 && unordered(state).length === 0) {
    const wait = Math.ceil(chosen.plan.elapsedHours / 24);
    const due = coming
      .map((part) => state.progress[part.requirementId]?.dueOn ?? addDays(today, 10))
      .reduce(laterOf, today);
    const cured = sheet?.waitUntil ? localDateOf(sheet.waitUntil, zone) : today;
    return laterOf(addDays(due, wait + (coming.length > 0 ? 1 : 0)), cured);
  }
  return chosen.readyOn;
}
