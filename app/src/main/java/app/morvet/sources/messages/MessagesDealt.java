package app.morvet.sources.messages;

/** Failed messages were dealt with, or sorted anew. Published inside the transaction that does it. */
public record MessagesDealt() {}
