import { nonce } from './nonce';

/** Prints a page of its own, so that the sheet and nothing else goes on paper. */
export function printPage(html: string): void {
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;width:0;height:0;border:0';
  // The page's own policy holds in the frame, too: without its nonce the sheet would have no styles.
  frame.srcdoc = html.replaceAll('<style>', `<style nonce="${nonce()}">`);
  frame.onload = () => {
    frame.contentWindow?.addEventListener('afterprint', () => frame.remove());
    frame.contentWindow?.print();
  };
  document.body.append(frame);
}
