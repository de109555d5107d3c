package eleutheria.server.web;

import eleutheria.core.facts.ObjectKind;
import eleutheria.core.mandates.Power;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** Who may call an endpoint. One without this is refused to everybody. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.METHOD)
public @interface Needs {
  /** One of these powers, with whatever reach; the answer is cut to it. */
  Power[] value() default {};

  /** Whoever is signed in; what they may see or do is decided for each thing. */
  boolean signedIn() default false;

  /**
   * Whether it belongs to the desk, where a sign-in lasts for less; whatever needs a power does.
   */
  boolean desk() default false;

  /** Everybody, signed in or not. */
  boolean nothing() default false;

  /** Owners of groups as well. */
  boolean orGroupOwner() default false;

  /** Owners of something of these kinds as well; which of them is decided for each thing. */
  ObjectKind[] orOwnerOf() default {};

  /** Whoever can change anything that a draft gathers. */
  boolean drafts() default false;

  /** A sign-in at most 10 minutes old. */
  boolean fresh() default false;

  /** Whether it can be looked at ahead: sent with the header {@code Foresee}, it is not done. */
  boolean foresees() default false;
}
