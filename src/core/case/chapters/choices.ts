import { livesOf, type Catalogue, type Cause, type Condition, type Platform } from '../../catalogue';
import { lifeFactor } from '../../diagnose';
import { daysBetween, toMajor, type LocalDate } from '../../units';
import { doItNow, weighQuote, type Owning, type Waiting, type Worth } from '../../worth';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { OfferMade } from './jobs';
import { lifeOf } from './nearby';

/** One way that is offered, beside a new machine. */
export type Choice = Pick<Worth, 'repair' | 'quote' | 'advantage' | 'replacePrice' | 'probabilityRepair'> & {
  id: string;
  /** Chance that it does not mend where the first way would: then that is done after it. */
  fails: number;
  /** Expected cost of mending it again before the machine's end because it lasts less long than the first way, of today's worth; major units. */
  again: number;
};

type In = {
  /** Of a cause that is settled; null while it is open, and once one way is agreed on. */
  offer: OfferMade | null;
  owning: Owning | null;
  waiting: Waiting;
  cause: Cause | null;
  causes: readonly Cause[];
  platform: Platform;
  conditions: readonly Condition[];
  settings: Settings;
  today: LocalDate;
} & Pick<Catalogue, 'lives'>;

/**
 * Each way of mending one fault that has a price, a usual one at least, weighed against a new machine in the same draws. A way that is less sure than the first costs, with that chance, the
 * first one after it; one that lasts less long is done again with the chance that its shorter life ends before the machine's. Empty where there is no choice. A second
 * job along with it mends more, and is not compared. `quote` is the way's own price.
 */
export const choicesChapter: Chapter<'choices', In, Choice[]> = {
  name: 'choices',
  byContent: ['waiting', 'conditions', 'settings'],
  answer: ({ offer, owning, waiting, cause, causes, platform, conditions, settings, lives, today }) => {
    if (!offer || !owning || !cause) return [];
    const ways = offer.options.flatMap((way) => {
      const priced = offer.quote.options.find(({ id }) => id === way.id);
      if (!priced || priced.kind === 'while-open' || priced.lines.some(({ amounts }) => amounts === null)) return [];
      const days = way.readyOn && way.readyOn > today ? daysBetween(today, way.readyOn) : 0;
      return [{ ...way, gross: toMajor(priced.gross), days }];
    });
    const [first] = ways;
    if (!first || first.id !== offer.options[0]?.id || ways.length < 2) return [];
    const known = lifeOf(livesOf(lives, platform.design, platform.id), causes, cause);
    const life = known && { ...known, scaleYears: known.scaleYears * lifeFactor(conditions, known.ofCause) };
    const againAfter = (lifeShare: number) =>
      life
        ? doItNow({
            life,
            ageYears: (1 - lifeShare) * life.scaleYears,
            yearsLeft: owning.yearsLeft,
            cost: first.gross + toMajor(settings.disruption),
            extra: 0,
            rho: settings.rho,
          }).saves
        : 0;
    return ways.map(({ id, gross, days, cure, lifeShare }): Choice => {
      const fails = cure < first.cure ? 1 - cure / first.cure : 0;
      const again = Math.max(0, againAfter(lifeShare) - againAfter(first.lifeShare));
      const { repair, advantage, replacePrice, probabilityRepair } = weighQuote(
        owning,
        [
          { quote: gross + again, days, probability: 1 - fails },
          { quote: gross + again + first.gross, days: days + first.days, probability: fails },
        ],
        waiting,
      );
      return { id, quote: gross, repair, advantage, replacePrice, probabilityRepair, fails, again };
    });
  },
};
