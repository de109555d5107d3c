/** Emails: what each kind says, and the one form that all of them have. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.letters;
