import type { Lever } from '@sorvik/core/levers/registry';
import type { ComponentType } from 'react';

export interface ControlProps {
  lever: Lever;
  position: unknown;
  move(position: unknown): void;
}

/** The control of one kind of lever: what a viewer operates. */
export interface ControlKind {
  kind: string;
  Control: ComponentType<ControlProps>;
}
