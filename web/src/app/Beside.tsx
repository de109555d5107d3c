/** The pages of the portal beside its front page: one part, which comes when the first is wanted. */
export { MyHoldingsPage } from '../access/MyHoldingsPage';
export { MePage } from '../me/MePage';
export { ClosedPage } from '../portal/ClosedPage';
export { AskManyPage } from '../requests/AskManyPage';
export { AskOnePage } from '../requests/AskOnePage';
export { AskPage } from '../requests/AskPage';
export { MyRequestsPage } from '../requests/MyRequestsPage';
export { SuggestPage } from '../suggestions/SuggestPage';
