// What a page does with a board in a frame: it gives it its height, moves its levers, and hears of what is lit.
const board = document.getElementById('board');
const sorvik = new URL(board.src).origin;
const say = (message) => board.contentWindow.postMessage({ sorvik: 1, ...message }, sorvik);

addEventListener('message', ({ source, origin, data }) => {
  if (source !== board.contentWindow || origin !== sorvik || data?.sorvik !== 1) return;
  if (data.type === 'height') board.style.height = `${data.height}px`;
  if (data.type === 'lit' && data.chart === 'passengers')
    document.getElementById('said').textContent = data.lit.map(({ category }) => category).join(', ');
});

// Whatever the frame has said before this script was there, it says again.
board.addEventListener('load', () => say({ type: 'hello' }));

document.getElementById('three').addEventListener('click', () => {
  say({ type: 'move', positions: { count: 3 } });
});
