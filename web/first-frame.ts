/** A window that paints nothing, as one in the background, is not waited for longer than so, ms. */
const longest = 300;

// Where the server has drawn the page, that is painted before the program begins: it would keep the browser from it.
if (document.getElementById('drawn'))
  await Promise.race([
    new Promise((go) => requestAnimationFrame(() => setTimeout(go))),
    new Promise((go) => setTimeout(go, longest)),
  ]);

export {};
