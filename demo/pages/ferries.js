// What a page does with its charts: it moves their levers, and hears of what is lit.
const routes = document.getElementById('routes');

document.getElementById('tarsk').addEventListener('click', () => {
  routes.positions = { routes: ['Tarsk – Corvane'] };
});

routes.addEventListener('sorvik:lit', ({ detail: { lit } }) => {
  const passengers = lit.reduce((sum, { value }) => sum + value, 0);
  document.getElementById('said').textContent = lit.length
    ? `${lit.map(({ category }) => category).join(', ')}: ${passengers.toLocaleString('en')} passengers.`
    : '';
});
