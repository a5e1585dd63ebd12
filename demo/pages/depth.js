// Rows of the page itself, and how they are drawn.
const chart = document.getElementById('depths');

chart.description = {
  title: 'Depth at the piers',
  levers: [
    {
      kind: 'number',
      id: 'draught',
      name: 'Draught of the vessel',
      min: 1,
      max: 9,
      step: 0.1,
      start: 3.6,
      unit: 'm',
    },
  ],
  charts: [
    {
      id: 'depth',
      title: 'Depth at low water',
      by: { field: 'pier' },
      measure: { aggregate: 'min', field: 'depth', format: { as: 'number', unit: 'm', decimals: 1 } },
      cues: [
        {
          id: 'too-shallow',
          effect: 'light',
          condition: { kind: 'threshold', is: 'below', limit: { lever: 'draught' } },
          look: { colour: 'ember' },
          resting: 'plain',
        },
      ],
    },
  ],
};
chart.data = [
  { pier: 'Quel', depth: 6.4 },
  { pier: 'Ostrin', depth: 5.8 },
  { pier: 'Harl', depth: 4.9 },
  { pier: 'Vemmen', depth: 7.7 },
  { pier: 'Skarrow', depth: 3.2 },
  { pier: 'Tarsk', depth: 3.5 },
  { pier: 'Corvane', depth: 2.6 },
  { pier: 'Aldsey', depth: 4.1 },
];
