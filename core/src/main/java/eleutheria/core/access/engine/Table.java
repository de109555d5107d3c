package eleutheria.core.access.engine;

/** The kinds of facts that access follows from, each in {@link Rows} of its own. */
enum Table {
  /** key: person. */
  PEOPLE,
  /** key: person; value: number of the name. */
  NAMES,
  /** key: person; value: status. */
  STATUS,
  /** key: person; value: code of the text; extra: attribute × 2, + 1 where it has many values. */
  ATTRIBUTES,
  /** key: attribute; value: type. */
  DEFINED,
  /** key: group. */
  GROUPS,
  /** key: group; value: filter + 1, or 0 for listed and mirrored. */
  FORMS,
  /** key: group; value: person. */
  MEMBERS,
  /** key: group above; value: group nested in it. */
  EDGES,
  /** key: grant; value: see {@link Store#subjectOf}; extra: entitlement × 4 + source. */
  GRANTS,
  /** key: grant; value: code of the text. Nothing follows from it. */
  REASONS,
  /** key: entitlement; value: application. */
  ROLES,
  /** key: application; value: state. */
  STATES
}
