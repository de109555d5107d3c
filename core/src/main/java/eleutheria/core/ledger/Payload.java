package eleutheria.core.ledger;

/**
 * A personal value, kept beside the chain so that it can be erased by law.
 *
 * @param at where its hash stands: {@code reason}, or {@code 12.before} for a change's side
 * @param salt 16 bytes in lower-case hex
 * @param text the canonical JSON of the value
 */
public record Payload(String at, String salt, String text) {}
