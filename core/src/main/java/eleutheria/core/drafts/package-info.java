/** Wanted changes that are not in force yet, what exactly they would do, and putting back. */
package eleutheria.core.drafts;
