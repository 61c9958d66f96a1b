package app.morvet.ground.connections;

import app.morvet.ground.access.Person;

/** A sort of connections: what can be tried of one, and what is read from an answer. A bean for each. */
public interface ConnectionSort {
    /** The name under which connections of this sort are kept; never changes. */
    String sort();

    /** A request that changes nothing there, by which people see whether a connection works. */
    Ask trial(Connection connection);

    /**
     * The same where what is tried is something that somebody gets: it goes to whoever tries it.
     *
     * @throws IllegalArgumentException where nothing can go to them; says what is missing
     */
    default Ask trial(Connection connection, Person by) {
        return trial(connection);
    }

    /**
     * What Morvet reads from an answer, in words for people.
     *
     * @throws IllegalArgumentException where it cannot be read; says why
     */
    String reads(Connection connection, String answer);
}
