package app.morvet.core.guard;

import java.util.List;
import java.util.Locale;
import java.util.function.IntFunction;

/** {@code a and not (b or c)}: the members of a combination, joined. */
public sealed interface Expression {
    Truth of(IntFunction<Truth> members);

    /** The highest member named, from 0. */
    int highest();

    /** As it is typed, with as few brackets as needed. */
    String text(IntFunction<String> names);

    /** @param index from 0 for {@code a} */
    record Member(int index) implements Expression {
        @Override
        public Truth of(IntFunction<Truth> members) {
            return members.apply(index);
        }

        @Override
        public int highest() {
            return index;
        }

        @Override
        public String text(IntFunction<String> names) {
            return names.apply(index);
        }
    }

    record Not(Expression it) implements Expression {
        @Override
        public Truth of(IntFunction<Truth> members) {
            return it.of(members).not();
        }

        @Override
        public int highest() {
            return it.highest();
        }

        @Override
        public String text(IntFunction<String> names) {
            return "not " + (it instanceof Joined ? "(" + it.text(names) + ")" : it.text(names));
        }
    }

    /** @param and whether all must hold, or any */
    record Joined(boolean and, List<Expression> parts) implements Expression {
        public Joined {
            parts = List.copyOf(parts);
        }

        @Override
        public Truth of(IntFunction<Truth> members) {
            return parts.stream()
                    .map(part -> part.of(members))
                    .reduce((one, other) -> and ? one.and(other) : one.or(other))
                    .orElse(Truth.UNKNOWN);
        }

        @Override
        public int highest() {
            return parts.stream().mapToInt(Expression::highest).max().orElse(0);
        }

        @Override
        public String text(IntFunction<String> names) {
            return parts.stream()
                    .map(part -> part instanceof Joined inner && inner.and != and
                            ? "(" + part.text(names) + ")"
                            : part.text(names))
                    .collect(java.util.stream.Collectors.joining(and ? " and " : " or "));
        }
    }

    /** As it is typed: members by their letters. */
    default String text() {
        return text(index -> String.valueOf((char) ('a' + index)));
    }

    /**
     * Reads an expression: members are the letters {@code a} to {@code h}; <em>not</em> binds tightest, then
     * <em>and</em>, then <em>or</em>; brackets as usual.
     *
     * @throws IllegalArgumentException that says where it cannot be read
     */
    static Expression parse(String text) {
        var parser = new Parser(text.toLowerCase(Locale.ROOT));
        var whole = parser.any();
        parser.end();
        return whole;
    }

    /** A descent through the grammar {@code any = all (or all)*; all = one (and one)*; one = not one | (any) | letter}. */
    final class Parser {
        private static final int DEEPEST = 20;
        private final String text;
        private int at;
        private int depth;

        private Parser(String text) {
            this.text = text;
        }

        private Expression any() {
            var parts = new java.util.ArrayList<Expression>();
            do parts.add(all());
            while (word("or"));
            return parts.size() == 1 ? parts.getFirst() : new Joined(false, parts);
        }

        private Expression all() {
            var parts = new java.util.ArrayList<Expression>();
            do parts.add(one());
            while (word("and"));
            return parts.size() == 1 ? parts.getFirst() : new Joined(true, parts);
        }

        private Expression one() {
            if (++depth > DEEPEST) throw wrong("fewer brackets");
            try {
                if (word("not")) return new Not(one());
                if (sign('(')) {
                    var inner = any();
                    if (!sign(')')) throw wrong("a closing bracket");
                    return inner;
                }
                skip();
                if (at < text.length() && text.charAt(at) >= 'a' && text.charAt(at) <= 'h' && !letterAt(at + 1)) {
                    return new Member(text.charAt(at++) - 'a');
                }
                throw wrong("a letter from a to h");
            } finally {
                depth--;
            }
        }

        private void end() {
            skip();
            if (at < text.length()) throw wrong("\"and\", \"or\" or the end");
        }

        private boolean word(String word) {
            skip();
            if (!text.startsWith(word, at) || letterAt(at + word.length())) return false;
            at += word.length();
            return true;
        }

        private boolean sign(char sign) {
            skip();
            if (at >= text.length() || text.charAt(at) != sign) return false;
            at++;
            return true;
        }

        private boolean letterAt(int index) {
            return index < text.length() && Character.isLetterOrDigit(text.charAt(index));
        }

        private void skip() {
            while (at < text.length() && Character.isWhitespace(text.charAt(at))) at++;
        }

        private IllegalArgumentException wrong(String wanted) {
            return new IllegalArgumentException("the combination cannot be read: expected %s at character %d of \"%s\""
                    .formatted(wanted, at + 1, text));
        }
    }
}
