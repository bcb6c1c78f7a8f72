package org.orderlyferry.testkit.contract;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.TestInstance;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;

/** Finds the formats that stand in the packages of the module that extends a contract, so that none has to be listed. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class OwnFormats {

    Stream<FileFormat> formats() {
        String module = getClass().getPackageName();
        List<FileFormat> own = FileFormats.all().stream()
                .filter(f -> f.getClass().getPackageName().startsWith(module))
                .toList();
        assertThat(own).as("formats below " + module).isNotEmpty();
        return own.stream();
    }
}
