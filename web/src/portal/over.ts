/** What opens over the front page: one part, which comes when the first of it is wanted. */
export { HandBackDialog } from '../access/HandBackDialog';
export { WhyDialog } from '../access/WhyDialog';
export { LinkDialog } from '../suggestions/LinkDialog';
export { ComplaintDialog } from './ComplaintDialog';
export { Keys } from './Keys';
