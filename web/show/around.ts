import { framers, visit } from '../app/visit';
import { ParentPage } from './parent-page';

/** The page around this one, which is in a frame of it; null where it is in none. It is heard from the start. */
export const around = visit.embedded ? new ParentPage(window, framers()) : null;
