import {
  type DefaultOptions,
  type InvalidateOptions,
  type InvalidateQueryFilters,
  type Query,
  QueryClient,
} from '@tanstack/react-query';

/**
 * What has been asked of the server. When something has changed, what is just being asked for the
 * first time is asked once more when it has come: its answer may have been made before the change,
 * and would stand as the newest. It is not broken off, so that a page comes in the end however slow
 * the line is and however much changes.
 */
export class Queries extends QueryClient {
  /** What is asked once more when it has come, however often something changes until then. */
  private readonly again = new Set<Query>();

  constructor(queries: DefaultOptions['queries']) {
    super({ defaultOptions: { queries } });
  }

  override async invalidateQueries<Key extends readonly unknown[] = readonly unknown[]>(
    filters?: InvalidateQueryFilters<Key>,
    options?: InvalidateOptions,
  ): Promise<void> {
    const first = this.getQueryCache()
      .findAll(filters)
      .filter((query) => query.state.data === undefined && query.state.fetchStatus !== 'idle')
      .filter((query) => !this.again.has(query));
    for (const query of first) {
      this.again.add(query);
    }
    await super.invalidateQueries(filters, options);
    for (const query of first) {
      this.again.delete(query);
    }
    if (first.length > 0) {
      await super.invalidateQueries({ predicate: (query) => first.includes(query) }, options);
    }
  }
}
