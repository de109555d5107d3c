package eleutheria.server.docket;

/** What a case is about, and so how it is told and decided. */
enum CaseKind {
  REQUEST,
  LEAVING,
  DRAFT,
  RULE,
  SUGGESTION,
  COMPLAINT,
  LEDGER,
  PARKED
}
