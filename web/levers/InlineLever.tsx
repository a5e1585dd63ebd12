import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { useLanguage } from '../ui/language';
import { useLever } from './LeverGroup';
import { controlKinds } from './registry';

/** A lever inside a line of text: operated there where its control can be, else read there. */
export function InlineLever({ lever }: { lever: Lever }) {
  const { position, facts, problem, move } = useLever(lever);
  const { locale } = useLanguage();
  const { Inline } = controlKinds.get(lever.kind);
  if (!Inline)
    return <span className="sv-live">{kindOf(lever).summary(lever, position, facts, locale)}</span>;
  return <Inline lever={lever} position={position} facts={facts} problem={problem} move={move} />;
}
