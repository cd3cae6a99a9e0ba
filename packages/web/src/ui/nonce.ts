import { setNonce } from 'get-nonce';

/** The word of this page that lets style sheets made by its scripts count; no other is taken. */
export const nonce = (): string =>
  document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? '';

/** For the library that keeps the page from scrolling behind a dialog. */
export const spreadNonce = (): void => setNonce(nonce());
