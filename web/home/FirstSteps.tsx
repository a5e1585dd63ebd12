import { tell } from '../ui/tell';

/** One step of the way in: a small drawing, and what happens there. */
const steps = [
  {
    title: tell('home.firstSteps.dropATable'),
    says: tell('home.firstSteps.aCsvFileAnywhereOn'),
    drawing: (
      <>
        <rect className="is-frame" x="46" y="14" width="88" height="72" rx="4" />
        {[0, 1, 2, 3].map((row) => (
          <path
            key={row}
            className="is-line"
            d={`M54 ${30 + row * 15}h20M82 ${30 + row * 15}h18M108 ${30 + row * 15}h18`}
          />
        ))}
        <path className="is-arrow" d="M90 92v14m-7 -7l7 7l7 -7" />
      </>
    ),
  },
  {
    title: tell('home.firstSteps.chooseAQuestion'),
    says: tell('home.firstSteps.boardsAreOfferedThatAnswer'),
    drawing: (
      <>
        {[0, 1, 2].map((card) => (
          <rect key={card} className="is-frame" x={18 + card * 50} y="26" width="44" height="56" rx="4" />
        ))}
        <path className="is-mark" d="M26 74v-16h7v16zM36 74v-28h7v28zM46 74v-10h7v10z" />
        <path className="is-line" d="M74 70l10 -14l10 6l10 -20" />
        <path className="is-mark" d="M126 36h28v6h-28zM126 48h20v6h-20zM126 60h12v6h-12z" />
      </>
    ),
  },
  {
    title: tell('home.firstSteps.moveALever'),
    says: tell('home.firstSteps.whatMattersLightsUpThe'),
    drawing: (
      <>
        <path className="is-rest" d="M36 60h92v9h-92zM36 74h64v9h-64zM36 88h44v9h-44z" />
        <path className="is-lit" d="M36 32h108v9h-108zM36 46h98v9h-98z" />
        <path className="is-line" d="M36 16h108" />
        <circle className="is-frame" cx="76" cy="16" r="6" />
      </>
    ),
  },
];

/** The way in, for whoever has no board yet. */
export function FirstSteps() {
  return (
    <ol className="sv-first-steps" aria-label={tell('home.firstSteps.howItGoes')}>
      {steps.map(({ title, says, drawing }) => (
        <li key={title}>
          <svg viewBox="0 0 180 110" aria-hidden="true">
            {drawing}
          </svg>
          <strong>{title}</strong>
          <p>{says}</p>
        </li>
      ))}
    </ol>
  );
}
