import { moneyText, type Currency } from '../../../core/units/money.ts';

/** What a cockpit build costs, in words where it has no figure: `price` null is a part without one, or one to be ordered. */
export function buildPrice(build: { price: number | null; inBin: boolean }, currency: Currency): string {
  if (build.price === null) return build.inBin ? 'no price' : 'to order';
  return build.price === 0 ? 'nothing' : moneyText(build.price, currency);
}
