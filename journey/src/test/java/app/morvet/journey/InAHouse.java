package app.morvet.journey;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;

/** Tests in a browser that share one running house. After each its pages are closed, and nothing may have gone wrong in them. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class InAHouse {
    protected House house;
    protected Pages pages;

    @BeforeAll
    void open() throws Exception {
        house = House.open();
        pages = new Pages(house.address());
    }

    @AfterAll
    void close() {
        if (pages != null) pages.close();
        if (house != null) house.close();
    }

    @AfterEach
    void nothingWentWrongInThePages() {
        assertThat(pages.leave()).isEmpty();
    }
}
