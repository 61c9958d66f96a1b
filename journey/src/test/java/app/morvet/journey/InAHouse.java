package app.morvet.journey;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;

/**
 * Tests in a browser that share one running house; those of other classes live in it too, unless they are alone. After each its
 * pages are closed, and nothing may have gone wrong in them.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class InAHouse {
    protected House house;
    protected Pages pages;

    /** Whether others would not find the house as it was: its clock is put forward, or all of its interfaces fail. */
    protected boolean isAlone() {
        return false;
    }

    @BeforeAll
    void open() throws Exception {
        house = isAlone() ? House.open() : House.shared();
        pages = new Pages(house.address());
    }

    @AfterAll
    void close() {
        if (house != null && isAlone()) house.close();
    }

    @AfterEach
    void nothingWentWrongInThePages() {
        assertThat(pages.leave()).isEmpty();
    }
}
