package eleutheria.server.portal;

import static eleutheria.server.tables.Tables.OWN_LINK;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.suggestions.OwnLink;
import eleutheria.core.suggestions.SelfService;
import eleutheria.server.state.World;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Links that people keep for themselves, as rows. */
@Repository
class OwnLinks {
  private final DSLContext db;
  private final World world;

  OwnLinks(DSLContext db, World world) {
    this.db = db;
    this.world = world;
  }

  /** In the order in which they were made. */
  List<OwnLink> of(PersonId person) {
    return db.selectFrom(OWN_LINK)
        .where(OWN_LINK.PERSON_ID.eq(person.value()))
        .orderBy(OWN_LINK.MADE_AT, OWN_LINK.ID)
        .fetch(
            r ->
                new OwnLink(
                    r.get(OWN_LINK.ID),
                    r.get(OWN_LINK.NAME),
                    r.get(OWN_LINK.ADDRESS),
                    r.get(OWN_LINK.PICTURE),
                    r.get(OWN_LINK.HUE)));
  }

  /** The same as they are shown, each with whether it may be opened still. */
  List<PageViews.OwnLinkView> views(PersonId person) {
    List<OwnLink> own = of(person);
    if (own.isEmpty()) {
      return List.of();
    }
    return world.look(
        (facts, now) -> {
          SelfService selfService = SelfService.at(facts, now.at());
          FactValue.SelfServiceLine rule = selfService.of(person, now::has);
          return own.stream()
              .map(
                  link ->
                      new PageViews.OwnLinkView(
                          link.id().toString(),
                          link.name(),
                          link.address(),
                          link.picture(),
                          link.hue(),
                          selfService.allows(rule, link.address())))
              .toList();
        });
  }

  /** Keeps a link; one with the same id takes its place, if it is the same person's. */
  void save(PersonId person, OwnLink link, Instant at) {
    int changed =
        db.update(OWN_LINK)
            .set(OWN_LINK.NAME, link.name())
            .set(OWN_LINK.ADDRESS, link.address())
            .set(OWN_LINK.PICTURE, link.picture())
            .set(OWN_LINK.HUE, link.hue())
            .where(OWN_LINK.ID.eq(link.id()), OWN_LINK.PERSON_ID.eq(person.value()))
            .execute();
    if (changed == 0) {
      db.insertInto(OWN_LINK)
          .set(OWN_LINK.ID, link.id())
          .set(OWN_LINK.PERSON_ID, person.value())
          .set(OWN_LINK.NAME, link.name())
          .set(OWN_LINK.ADDRESS, link.address())
          .set(OWN_LINK.PICTURE, link.picture())
          .set(OWN_LINK.HUE, link.hue())
          .set(OWN_LINK.MADE_AT, at)
          .execute();
    }
  }

  boolean remove(PersonId person, UUID id) {
    return db.deleteFrom(OWN_LINK)
            .where(OWN_LINK.ID.eq(id), OWN_LINK.PERSON_ID.eq(person.value()))
            .execute()
        > 0;
  }
}
