/**
 * The computation of Eleutheria: facts, ledger, directory, applications, access, portal, requests,
 * drafts, departures, docket, mandates, sign-on rules.
 */
module eleutheria.core {
  requires static org.jspecify;
  requires com.ibm.icu;
  requires org.apache.commons.csv;
  requires hipparchus.core;
  requires com.nulabinc.zxcvbn;
  requires transitive roaringbitmap;

  exports eleutheria.core.facts;
  exports eleutheria.core.ledger;
  exports eleutheria.core.directory;
  exports eleutheria.core.directory.filter;
  exports eleutheria.core.directory.intake;
  exports eleutheria.core.apps;
  exports eleutheria.core.access;
  exports eleutheria.core.access.engine;
  exports eleutheria.core.portal;
  exports eleutheria.core.suggestions;
  exports eleutheria.core.queries;
  exports eleutheria.core.requests;
  exports eleutheria.core.departures;
  exports eleutheria.core.docket;
  exports eleutheria.core.drafts;
  exports eleutheria.core.mandates;
  exports eleutheria.core.signon;
}
