/** What a command was asked can’t be done, with the sentence that says why. */
export class Refusal extends Error {}

export function refuse(why: string): never {
  throw new Refusal(why.replace(/\s+/g, ' '));
}

/** Prints what a command gives; what it refuses is one line on stderr and exit 2. */
export function printed(command: () => string): void {
  try {
    process.stdout.write(`${command()}\n`);
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    process.stderr.write(`${e.message}\n`);
    process.exit(2);
  }
}
