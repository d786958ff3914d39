import { SHOWS_AFTER_DAYS, type Stillness } from '@/core/case/stillness';
import { plural } from '@/core/shape/counts';

/** How long the light has stood still. */
export const stillWords = ({ days, changes90 }: Stillness): string =>
  days === null
    ? 'Nothing has happened here yet. What is typed into a lamp is written here by itself.'
    : `${days === 0 ? 'The light changed today: watch, and hold still' : `${plural(days, 'day')} since the light last changed`}${changes90 > 1 ? `; it changed on ${plural(changes90, 'day')} of the last 90` : ''}.`;

/** What cannot be told apart; '' where only one thing changed. */
export const togetherWords = ({ together }: Stillness): string =>
  together.length < 2
    ? ''
    : `Changed within days of one another: ${together.join('; ')}. What shows cannot be told apart by it.`;

/** Before another change: what the last one does cannot have shown yet; '' where it can. */
export const soonWords = ({ days, changes90 }: Stillness): string =>
  days === null || days >= SHOWS_AFTER_DAYS
    ? ''
    : `The light last changed ${days === 0 ? 'today' : `${plural(days, 'day')} ago`}: what that does to colour cannot have shown yet (about ${SHOWS_AFTER_DAYS} days, rule of thumb).${changes90 > 1 ? ` It changed on ${plural(changes90, 'day')} of the last 90.` : ''}`;
