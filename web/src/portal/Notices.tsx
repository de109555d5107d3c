import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/portal';
import { NO_OWN, useOwnPortal } from './useOwnPortal';

const DAY = 86_400_000;

/** What is told at the head of the page, and what one holds and will lose by itself soon. */
export function Notices({ page }: { page: Schemas['PageView'] }) {
  const { zone } = useSession();
  const { hush } = useOwnPortal();
  const hushed = (page.own ?? NO_OWN).hushed;
  return (
    <>
      {page.notice !== '' && (
        <div className="notice" dir="auto">
          <span>{page.notice}</span>
        </div>
      )}
      {page.ends
        .filter((notice) => !hushed.includes(notice.word))
        .map((notice) => (
          <div key={notice.word} className="notice">
            <span>
              <b>
                {words.portal.ends(
                  notice.entitlement.title,
                  tellDay(lastDay(zone, notice.until)),
                  Math.max(0, Math.ceil((Date.parse(notice.until) - Date.now()) / DAY) - 1),
                )}
              </b>{' '}
              {words.portal.goes(notice.goes)} {words.portal.stays(notice.stays)}
            </span>
            <span className="acts">
              {notice.askable && (
                <Link to={`/ask/${notice.entitlement.id}`}>{words.portal.keep}</Link>
              )}
              <button type="button" className="link" onClick={() => hush(notice.word)}>
                {words.portal.hush}
              </button>
            </span>
          </div>
        ))}
    </>
  );
}
