package app.morvet.journey;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;

/**
 * Tests in a browser that share one running house; those of other classes live in it too, unless they put its clock forward. After each its
 * pages are closed, and nothing may have gone wrong in them.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class InAHouse {
    protected House house;
    protected Pages pages;

    /** Whether the clock of the house is put forward, so that others would not find it as it was. */
    protected boolean leaps() {
        return false;
    }

    @BeforeAll
    void open() throws Exception {
        house = leaps() ? House.open() : House.shared();
        pages = new Pages(house.address());
    }

    @AfterAll
    void close() {
        if (pages != null) pages.close();
        if (house != null && leaps()) house.close();
    }

    @AfterEach
    void nothingWentWrongInThePages() {
        assertThat(pages.leave()).isEmpty();
    }
}
