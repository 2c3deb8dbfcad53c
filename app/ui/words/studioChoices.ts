import type { Paper } from '../../../core/records/handOver.ts';
import { CURRENCIES, moneyText, type Currency } from '../../../core/units/money.ts';
import type { LengthUnit } from '../../../core/units/length.ts';

/** What a studio chooses among, in words: asked on a first visit, and in Settings. */
export const LENGTH_CHOICES: readonly (readonly [LengthUnit, string])[] = [
  ['mm', 'millimetres'],
  ['cm', 'centimetres'],
  ['in', 'inches'],
];
/** Asked for when it is shown: the browser takes long to name its first currency. */
export function currencyChoices(): (readonly [Currency, string])[] {
  const names = new Intl.DisplayNames('en', { type: 'currency' });
  return CURRENCIES.map((code) => [
    code,
    `${names.of(code)} (${moneyText(1, code).replace(/[\d.,\s]/g, '')})`,
  ]);
}
export const PAPER_CHOICES: readonly (readonly [Paper, string])[] = [
  ['A4', 'A4'],
  ['LETTER', 'US Letter'],
];
