import type { Locator, Page } from './test';

/** Seconds of a key, of pointing and clicking, and of looking up what comes next, by the keystroke-level model (Card, Moran and Newell 1980). */
const KEY_S = 0.28;
const CLICK_S = 1.3;
const THINK_S = 1.35;

/** What a person does, counted: clicks, keys, and the fields and choices that were answered. */
export class Hands {
  clicks = 0;
  keys = 0;
  answers = 0;
  constructor(private readonly page: Page) {}

  /** Clicks on something that answers nothing by itself. */
  async click(target: Locator): Promise<void> {
    this.clicks += 1;
    await target.click();
  }
  async type(target: Locator, text: string, end = 'Tab'): Promise<void> {
    this.clicks += 1;
    this.keys += text.length + 1;
    this.answers += 1;
    await target.fill(text);
    await target.press(end);
  }
  /** One of a list that opens. */
  async pick(target: Locator, choice: string | { index: number }): Promise<void> {
    this.clicks += 2;
    this.answers += 1;
    await target.selectOption(typeof choice === 'string' ? { label: choice } : choice);
  }
  async check(target: Locator): Promise<void> {
    this.clicks += 1;
    this.answers += 1;
    await target.check();
  }
  async clickAt(x: number, y: number): Promise<void> {
    this.clicks += 1;
    await this.page.mouse.click(x, y);
  }

  /** What was counted, with the minutes that the model makes of it: typing and pointing, without measuring or reading up. */
  told(): string {
    const seconds = this.keys * KEY_S + this.clicks * CLICK_S + this.answers * THINK_S;
    return `${this.answers} answers, ${this.clicks} clicks and ${this.keys} keys; ${(seconds / 60).toFixed(1)} min by the keystroke-level model`;
  }
}
