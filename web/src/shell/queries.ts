import {
  type DefaultOptions,
  type InvalidateOptions,
  type InvalidateQueryFilters,
  QueryClient,
} from '@tanstack/react-query';

/**
 * What has been asked of the server. When something has changed, what is just being asked for the
 * first time is asked again as well: its answer may have been made before the change, and would
 * stand as the newest.
 */
export class Queries extends QueryClient {
  constructor(queries: DefaultOptions['queries']) {
    super({ defaultOptions: { queries } });
  }

  override async invalidateQueries<Key extends readonly unknown[] = readonly unknown[]>(
    filters?: InvalidateQueryFilters<Key>,
    options?: InvalidateOptions,
  ): Promise<void> {
    await this.cancelQueries({
      ...filters,
      predicate: (query) =>
        query.state.data === undefined &&
        query.state.fetchStatus !== 'idle' &&
        (filters?.predicate?.(query as never) ?? true),
    } as InvalidateQueryFilters<Key>);
    await super.invalidateQueries(filters, options);
  }
}
