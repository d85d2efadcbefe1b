import type { TicketState } from './state';

export type TicketEvidence = {
  findings: { findingId: string; present: boolean }[];
  outcomes: { checkId: string; outcomeId: string }[];
  failedFixes: string[];
  failedWays: string[];
  wreckSigns: string[];
  /** Checks that were done and could not tell: no evidence, and not asked for again. */
  unclear: string[];
};

/** What the findings, codes, checks and readings say, as evidence. 'Not sure' is none. */
export function evidenceOf(
  state: Pick<TicketState, 'findings' | 'codes' | 'checks' | 'readings' | 'failedFixes' | 'failedWays' | 'wrecks'>,
): TicketEvidence {
  const findings = new Map<string, boolean>();
  for (const finding of state.findings)
    if (finding.answer !== 'not-sure') findings.set(finding.findingId, finding.answer === 'yes');
  for (const code of state.codes) if (code.findingId !== null) findings.set(code.findingId, true);
  const outcomes = new Map<string, string>();
  for (const check of state.checks) if (check.outcomeId !== null) outcomes.set(check.checkId, check.outcomeId);
  for (const reading of state.readings)
    if (reading.checkId !== null && reading.outcomeId !== null) outcomes.set(reading.checkId, reading.outcomeId);
  return {
    findings: [...findings].map(([findingId, present]) => ({ findingId, present })),
    outcomes: [...outcomes].map(([checkId, outcomeId]) => ({ checkId, outcomeId })),
    failedFixes: state.failedFixes,
    failedWays: state.failedWays,
    unclear: state.checks.flatMap(({ checkId }) => (outcomes.has(checkId) ? [] : [checkId])),
    wreckSigns: state.wrecks.flatMap(({ signId }) => signId ?? []),
  };
}

/** Whether anything is said that a cause could be found from. */
export const isTold = (
  state: Pick<TicketState, 'findings' | 'codes' | 'checks' | 'readings' | 'failedFixes' | 'failedWays'>,
): boolean =>
  state.findings.some((finding) => finding.answer === 'yes') ||
  [state.codes, state.checks, state.readings, state.failedFixes, state.failedWays].some((said) => said.length > 0);
