'use client';
import { quotationAsJson, quotationAsUbl, type Quotation } from '@/core/quote';
import { machineName, note } from '@/core/ticket';
import { localDateOf, toMajor } from '@/core/units';
import { Button, download, Folded, Mark, Why } from '@/ui';
import { formatDate, formatRate, lineWords, MEANS_WORDS, optionWords, plural } from '@/words';
import type { WorthProps } from './WorthProps';

type Props = WorthProps & { optionId: string | null };

/** What goes with the price: how long it stands, what is answered for, who fetches, what the shop keeps, and the offer as a file. */
export function Terms(props: Props) {
  const { state, offer: made, settings, at, optionId, ask } = props;
  const { offer, answer } = state.round;
  const { collect, bringBack } = state.carriage;
  const until = offer?.validUntil;
  const ranOut = until !== undefined && until < at.today && answer?.answer !== 'yes';
  const months = offer?.warrantyMonths ?? made?.terms.warrantyMonths ?? 0;
  const shown = made?.options.find(({ id }) => id === optionId);
  const lines = made?.quote.options.find(({ id }) => id === optionId)?.lines ?? [];
  const labour = lines.find(({ kind }) => kind === 'labour')?.amounts?.net;
  const carriage = (change: Partial<typeof state.carriage>) =>
    void ask(note({ type: 'carriage-noted', collect, bringBack, ...change }));
  return (
    <div className="flex flex-col gap-1.5 text-[15px]">
      <p>
        {ranOut ? (
          <Mark tone="doubt">This offer stood until {formatDate(until, at.today)}: offer it anew</Mark>
        ) : until ? (
          `Stands until ${formatDate(until, at.today)}`
        ) : (
          `Will stand for ${plural(settings.validDays, 'day')}`
        )}
        {months > 0 ? `; ${plural(months, 'month')} of warranty on the repair` : ''}.
        {answer?.by || answer?.how
          ? ` Answered${answer.by ? ` by ${answer.by}` : ''}${answer.how ? `, ${MEANS_WORDS[answer.how]}` : ''}.`
          : ''}{' '}
        {shown && labour ? (
          <span className="text-soft">
            Of it the shop keeps{' '}
            <Why
              label="Margin"
              because="What the parts are sold for less what buying them costs, as far as both are known, and the labour charged; before tax. It is on no paper of the customer’s."
            >
              {formatRate(shown.partsMargin, settings.currency)} on parts and{' '}
              {formatRate(toMajor(labour), settings.currency)} labour
            </Why>
            .
          </span>
        ) : null}
      </p>
      {answer?.answer !== 'yes' && (settings.collectionFee || settings.deliveryFee) ? (
        <div className="flex flex-wrap gap-2.5">
          {settings.collectionFee ? (
            <Button aria-pressed={collect} onClick={() => carriage({ collect: !collect })}>
              {collect ? '✓ ' : ''}We fetch it
            </Button>
          ) : null}
          {settings.deliveryFee ? (
            <Button aria-pressed={bringBack} onClick={() => carriage({ bringBack: !bringBack })}>
              {bringBack ? '✓ ' : ''}We bring it back
            </Button>
          ) : null}
        </div>
      ) : null}
      <Folded title="The offer as a file" aside="JSON, UBL 2.1">
        <div className="flex flex-wrap gap-2.5">
          <Button
            onClick={() =>
              download(`offer-${state.number}.json`, 'application/json', quotationAsJson(quotationOf(props)))
            }
          >
            All ways (JSON)
          </Button>
          <Button
            onClick={() => {
              const quotation = quotationOf(props);
              const at = Math.max(
                0,
                shownOf(props).findIndex(({ id }) => id === optionId),
              );
              download(`offer-${state.number}.xml`, 'application/xml', quotationAsUbl(quotation, at));
            }}
          >
            The marked way (UBL Quotation)
          </Button>
        </div>
      </Folded>
    </div>
  );
}

const shownOf = ({ state, offer }: WorthProps) => state.round.offer?.options ?? offer?.quote.options ?? [];

/** The offer as it was made; before there is one, as it would be made today. */
function quotationOf(props: WorthProps): Quotation {
  const { state, offer: made, settings, at } = props;
  const { offer } = state.round;
  return {
    number: String(state.number),
    issuedOn: offer ? localDateOf(offer.at, at.zone) : at.today,
    validUntil: (offer ? offer.validUntil : made?.terms.validUntil) ?? null,
    shop: settings.shopName,
    customer: state.customer?.name ?? '',
    machine: machineName(state),
    warrantyMonths: offer?.warrantyMonths ?? made?.terms.warrantyMonths ?? 0,
    options: shownOf(props).map((option) => ({
      name: optionWords(option),
      readyOn: option.readyOn,
      net: option.net,
      tax: option.tax,
      gross: option.gross,
      lines: option.lines.map((line) => ({
        name: lineWords(line),
        partNumber: line.partNumber,
        quantity: line.quantity,
        amounts: line.amounts,
      })),
    })),
  };
}
