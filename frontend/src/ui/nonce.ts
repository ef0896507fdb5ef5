// Styles bear the nonce of the page: the content security policy lets no others in.
// Ant Design gives it to its own sheets, but not to two that measure: a table's scroll bar, and the lock of a page's scrolling.

/** The nonce that the server wrote into the page. */
export const nonce = document.querySelector('meta[name="waka-nonce"]')?.getAttribute("content") ?? "";

/** Every style that a script makes from now on bears the nonce. What somebody else writes into the page as text does not. */
export function nonceStyles(page: Document): void {
  const make = page.createElement.bind(page);
  page.createElement = (name: string, options?: ElementCreationOptions) => {
    const made = make(name, options);
    if (made instanceof HTMLStyleElement) made.nonce = nonce;
    return made;
  };
}
