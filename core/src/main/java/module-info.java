/** The computation of Eleutheria: facts, ledger, directory, mandates, sign-on rules. */
module eleutheria.core {
  requires static org.jspecify;
  requires com.ibm.icu;
  requires org.apache.commons.csv;

  exports eleutheria.core.facts;
  exports eleutheria.core.ledger;
  exports eleutheria.core.directory;
  exports eleutheria.core.directory.filter;
  exports eleutheria.core.directory.intake;
  exports eleutheria.core.mandates;
  exports eleutheria.core.signon;
}
