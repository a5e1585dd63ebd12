import { framersName, showAddress } from '@sorvik/core/levers/show-address';

// Parts of the page are tried without a window too.
const { pathname, search } = globalThis.location ?? { pathname: '', search: '' };
const isShow = /^\/show\/[^/]+$/.test(pathname);

/** How this page was come by: by a link in its address, or in a frame on a page elsewhere. It stays so until the page is left. */
export const visit = showAddress(new URLSearchParams(isShow ? search : ''));

/** The origins of pages that may have this one in a frame. */
export const framers = (): string[] =>
  document.querySelector<HTMLMetaElement>(`meta[name="${framersName}"]`)?.content.split(' ') ?? [];
