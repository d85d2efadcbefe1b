import type { Weighed } from '@/core/case';
import type { TicketState } from '@/core/ticket';

export type Enquiry = {
  shop: string;
  machine: string;
  modelNumber: string;
  serial: string | null;
  built: string | null;
  part: string;
  /** The number that sister models take, where there is one. */
  sisterNumber: string | null;
  position: string | null;
};

/** A letter to a supplier that can be answered without asking back: model, serial, build date, the part by what it does. */
export function enquiryText(enquiry: Enquiry): string {
  const { shop, machine, modelNumber, serial, built, part, sisterNumber, position } = enquiry;
  const where = position && position !== 'any' ? ` (${position})` : '';
  return [
    `Subject: ${part} for ${modelNumber}`,
    '',
    'Good day,',
    '',
    `please tell us which number is the ${part}${where} for this machine, and your price and delivery time:`,
    '',
    `  Machine: ${machine}`,
    `  Model number: ${modelNumber}`,
    `  Serial number: ${serial ?? 'not readable'}`,
    ...(built ? [`  Built: ${built}`] : []),
    '',
    sisterNumber
      ? `Your list does not name it for this model. Its sister models on the same platform take ${sisterNumber}: is that the right one here too?`
      : 'Neither our catalogue nor its sister models name one.',
    'If there is a newer number, please name that one, and what must be changed to fit it.',
    '',
    'With thanks,',
    shop,
  ].join('\n');
}

/** The facts of a ticket for such a letter. */
export function enquiryOf(
  state: TicketState,
  assessment: Pick<Weighed, 'age' | 'machine' | 'lore' | 'causes' | 'part'>,
  shop: string,
): Enquiry {
  const { age, machine, lore, causes } = assessment;
  const cause = causes.lead?.way.cause;
  const main = assessment.part.parts?.main ?? null;
  const sister = main?.candidates.find((candidate) =>
    candidate.reasons.some(({ kind }) => kind === 'fitted-to-sisters'),
  );
  const [window] = age.serial?.candidates ?? [];
  return {
    shop,
    machine: [state.plate?.badge, machine.platform.description].filter(Boolean).join(', ') || 'washing machine',
    modelNumber: state.plate?.modelNumber ?? state.plateNotListed ?? 'not readable',
    serial: state.serial,
    built: window ? `${window.builtFrom} to ${window.builtTo}` : null,
    part: lore.roles.find(({ id }) => id === cause?.roleId)?.name ?? cause?.name.toLowerCase() ?? 'part',
    sisterNumber: sister?.parts.map(({ part }) => part.partNumber).join(' + ') ?? null,
    position: main?.candidates[0]?.position ?? null,
  };
}
