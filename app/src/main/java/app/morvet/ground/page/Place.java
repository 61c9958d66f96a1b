package app.morvet.ground.page;

/**
 * A place in the navigation. A feature that has one gives it as a bean.
 *
 * @param number its place in the order of the work, from 1; its last digit is the key that leads there
 * @param name   as it stands in the top line
 * @param path   where it begins; all below it belongs to it
 */
public record Place(int number, String name, String path) {
    public int key() {
        return number % 10;
    }
}
