let current: string | null = null;

/** Runs what a field hands over while it is typed in: the edits of one go are taken back together. */
export function inBurst(key: string, handOver: () => void): void {
  const before = current;
  current = key;
  try {
    handOver();
  } finally {
    current = before;
  }
}

export const currentBurst = (): string | null => current;
