/** The money a studio may count in (ISO 4217). */
export const CURRENCIES = [
  'EUR',
  'GBP',
  'USD',
  'CHF',
  'SEK',
  'NOK',
  'DKK',
  'PLN',
  'CZK',
  'CAD',
  'AUD',
  'NZD',
  'JPY',
  'ZAR',
  'BRL',
] as const;
export type Currency = (typeof CURRENCIES)[number];

/** An amount as a bill has it: “€38.00”, “¥3,800”. */
export const moneyText = (amount: number, currency: Currency): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency, currencyDisplay: 'narrowSymbol' }).format(
    amount,
  );
