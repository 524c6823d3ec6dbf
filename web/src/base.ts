/** The path that a proxy has the server under, as /nexufix; '' at the root. The server writes it into the page. */
const below = document.querySelector<HTMLMetaElement>('meta[name="below"]')?.content ?? '';
export const base = below.startsWith('/') ? below : '';

/** A path of the server, as the browser asks for it. */
export const at = (path: string) => base + path;

/** The view that the address names. */
export const here = () => (window.location.pathname.startsWith(`${base}/`) ? window.location.pathname.slice(base.length) : '/');
