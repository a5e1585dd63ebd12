import '@sorvik/formula/english';
import { learnDesk } from './desk';
import messages from './desk/en.json';

// Whoever shows sentences to authors imports this.
learnDesk(messages);
