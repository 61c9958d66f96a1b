package app.morvet.core.estate;

/**
 * How much an application matters to the company: 1 stops the ships, 4 can wait for weeks.
 *
 * @param number 1 to 4
 */
public record Tier(int number) implements Comparable<Tier> {

    /** What is not yet named and owned is treated as the middle of the estate, neither lost nor shouting. */
    public static final Tier UNASSIGNED = new Tier(3);

    public Tier {
        if (number < 1 || number > 4) {
            throw new IllegalArgumentException("a tier is 1, 2, 3 or 4, was " + number);
        }
    }

    @Override
    public int compareTo(Tier other) {
        return Integer.compare(number, other.number);
    }
}
