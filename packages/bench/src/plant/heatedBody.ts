import type { HeaterPart } from '@jolly/core/parts/part';

/** A heated body: first order with dead time, warmed by a duty that changes in steps. Times in seconds. */
export interface HeatedBody {
  temperatureC(now: number): number;
  setDuty(now: number, duty: number): void;
  /** The share of the rated power that a full duty gives from now on. */
  setPower(now: number, power: number): void;
  /** Extra loss while something cools it, as a share of its still-air loss. */
  cool(now: number, share: number): void;
}

/**
 * @param startC how warm it is to begin with
 * @param power what the heater really gives, as a share of its rated power (supply voltage squared over rated)
 */
export function heatedBody(
  body: NonNullable<HeaterPart['body']>,
  power: number,
  ambientC: number,
  startC = ambientC,
): HeatedBody {
  let temperature = startC;
  let at = 0;
  let loss = 1;
  /** Duty that reaches the body now, and later ones with the time they arrive. */
  let duty = 0;
  let strength = power;
  const arriving: { at: number; duty: number }[] = [];

  /** From a temperature, after so many seconds of a duty. */
  function after(from: number, given: number, seconds: number): number {
    const settled = ambientC + (body.gain_c * strength * given) / loss;
    return settled + (from - settled) * Math.exp((-seconds * loss) / body.tau_s);
  }

  function runTo(now: number): void {
    temperature = after(temperature, duty, now - at);
    at = now;
  }

  function advance(now: number): void {
    for (let next = arriving[0]; next && next.at <= now; next = arriving[0]) {
      arriving.shift();
      runTo(next.at);
      duty = next.duty;
    }
    if (now > at) runTo(now);
  }

  return {
    // Looking changes nothing: who looks more often must not get another number.
    temperatureC(now) {
      let [c, from, given] = [temperature, at, duty];
      for (const next of arriving) {
        if (next.at > now) break;
        c = after(c, given, next.at - from);
        [from, given] = [next.at, next.duty];
      }
      return now > from ? after(c, given, now - from) : c;
    },
    setDuty: (now, share) => {
      advance(now);
      const last = arriving.at(-1)?.duty ?? duty;
      if (last !== share) arriving.push({ at: now + body.dead_s, duty: share });
    },
    setPower: (now, share) => {
      advance(now);
      strength = share;
    },
    cool: (now, share) => {
      advance(now);
      loss = 1 + share;
    },
  };
}
