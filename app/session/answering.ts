import { notify } from './notices';
import { whyNot } from '../storage/saveState';

/**
 * A route's action that never takes the page away: what the browser's storage refuses is answered with a sentence, and told over
 * the page. What leads to another page goes through.
 */
export const answering =
  <Args, Answer>(action: (args: Args) => Promise<Answer>) =>
  async (args: Args): Promise<Answer | { message: string }> => {
    try {
      return await action(args);
    } catch (error) {
      if (error instanceof Response) throw error;
      const message = `Not saved: ${whyNot(error)}`;
      notify(message);
      return { message };
    }
  };
