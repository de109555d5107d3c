/** Wanted changes that are not in force yet, what exactly they would do, and reverting. */
package eleutheria.core.drafts;
