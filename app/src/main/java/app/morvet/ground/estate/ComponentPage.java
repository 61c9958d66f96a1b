package app.morvet.ground.estate;

/**
 * Where components of a kind have a page of their own. A feature that has one gives it as a bean; all others are shown in
 * the estate.
 *
 * @param path under which it stands, with its key after it: {@code /batch/jobs/}
 */
public record ComponentPage(String kind, String path) {}
