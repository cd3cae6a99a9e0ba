/** Every reply ends with one of these. */
const LAST_LINE = /^(done$|error:|stopped:)/;

export interface Answer {
  lines: string[];
  /** The error or stop that ended it, if one did. */
  problem?: string;
}

/** Pairs what is sent with what comes back: one question at a time, each ended by the board's closing line. */
export interface AskQueue {
  ask(line: string): Promise<Answer>;
  hear(line: string): void;
  /** Nothing more will be heard: open questions end with this reason. */
  drop(reason: string): void;
}

export function askQueue(send: (line: string) => void): AskQueue {
  const waiting: { line: string; heard: string[]; resolve: (answer: Answer) => void }[] = [];
  const next = () => {
    if (waiting[0]) send(waiting[0].line);
  };
  return {
    ask: (line) =>
      new Promise((resolve) => {
        waiting.push({ line, heard: [], resolve });
        if (waiting.length === 1) next();
      }),
    hear(line) {
      const current = waiting[0];
      if (!current) return;
      current.heard.push(line);
      if (!LAST_LINE.test(line)) return;
      waiting.shift();
      current.resolve({ lines: current.heard, ...(line !== 'done' && { problem: line }) });
      next();
    },
    drop(reason) {
      for (const { heard, resolve } of waiting.splice(0)) resolve({ lines: heard, problem: reason });
    },
  };
}
