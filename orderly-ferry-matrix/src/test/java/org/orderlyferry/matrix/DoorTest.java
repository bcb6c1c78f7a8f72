package org.orderlyferry.matrix;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.lang.reflect.Executable;
import java.lang.reflect.GenericArrayType;
import java.lang.reflect.Method;
import java.lang.reflect.Modifier;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.Type;
import java.lang.reflect.WildcardType;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apiguardian.api.API;
import org.junit.jupiter.api.Test;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.Draft;
import org.orderlyferry.crossing.RunRecords;
import org.orderlyferry.crossing.Watch;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.place.DataSources;
import org.orderlyferry.documents.simulated.SimulatedStore;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.place.Places;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.view.DocumentViews;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;

/**
 * The library's door: what a user begins with, or a maker of places, formats and dialects, and all that their signatures
 * name. Whatever else is public is so for our own modules only, and says so.
 */
class DoorTest {

    private static final List<Class<?>> BEGINNINGS = List.of(
            Export.class,
            Load.class,
            RejectFile.class,
            Reconcile.class,
            Crossing.class,
            Draft.class,
            Watch.class,
            DocumentViews.class,
            Places.class,
            DataSources.class,
            SimulatedStore.class,
            FileTables.class,
            Reshaping.class,
            ProgressListener.class,
            PlaceProvider.class,
            FileFormat.class,
            Dialect.class,
            RunRecords.class);

    private static final JavaClasses ALL = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("org.orderlyferry");

    private final Set<Class<?>> reached = new HashSet<>();
    private final Deque<Class<?>> next = new ArrayDeque<>();

    private void reach(Type type) {
        if (type instanceof Class<?> found) {
            Class<?> named = found.isArray() ? found.getComponentType() : found;
            if (named.getName().startsWith("org.orderlyferry")
                    && Modifier.isPublic(named.getModifiers())
                    && reached.add(named)) {
                next.add(named);
            }
        } else if (type instanceof ParameterizedType generic) {
            reach(generic.getRawType());
            Stream.of(generic.getActualTypeArguments()).forEach(this::reach);
        } else if (type instanceof WildcardType any) {
            Stream.of(any.getUpperBounds(), any.getLowerBounds())
                    .flatMap(Stream::of)
                    .forEach(this::reach);
        } else if (type instanceof GenericArrayType array) {
            reach(array.getGenericComponentType());
        }
    }

    private void through(Class<?> type) {
        reach(type.getGenericSuperclass());
        Stream.of(type.getGenericInterfaces()).forEach(this::reach);
        Stream.of(type.getDeclaredClasses()).forEach(this::reach);
        if (type.isSealed()) {
            Stream.of(type.getPermittedSubclasses()).forEach(this::reach);
        }
        Stream.of(type.getFields()).forEach(f -> reach(f.getGenericType()));
        Stream.<Executable>concat(Stream.of(type.getDeclaredMethods()), Stream.of(type.getDeclaredConstructors()))
                .filter(m -> (m.getModifiers() & (Modifier.PUBLIC | Modifier.PROTECTED)) != 0)
                // a method of our own modules isn't of the door
                .filter(m -> m.getAnnotation(API.class) == null
                        || m.getAnnotation(API.class).status() != API.Status.INTERNAL)
                .forEach(m -> {
                    Stream.of(m.getGenericParameterTypes()).forEach(this::reach);
                    Stream.of(m.getGenericExceptionTypes()).forEach(this::reach);
                    if (m instanceof Method method) {
                        reach(method.getGenericReturnType());
                    }
                });
    }

    private static boolean isInternal(Class<?> type) {
        API own = type.getAnnotation(API.class);
        API shared = type.getPackage().getAnnotation(API.class);
        return Stream.of(own == null ? shared : own)
                .anyMatch(mark -> mark != null && mark.status() == API.Status.INTERNAL);
    }

    private static Set<Class<?>> publicTypes() {
        return ALL.stream()
                .filter(c -> c.isTopLevelClass() && !c.getSimpleName().equals("package-info"))
                // those that aren't may be of a cluster's own classes, which aren't here
                .filter(c -> c.getModifiers().contains(JavaModifier.PUBLIC))
                .map(JavaClass::reflect)
                .filter(c -> !c.getName().matches("org\\.orderlyferry\\.(cli|examples|testkit|bench)\\..*"))
                .collect(Collectors.toSet());
    }

    @Test
    void whatIsNotReachedThroughTheDoorIsMarked() {
        BEGINNINGS.forEach(this::reach);
        while (!next.isEmpty()) {
            through(next.poll());
        }
        assertThat(publicTypes()).allSatisfy(type -> assertThat(isInternal(type))
                .as(type.getName() + " is marked @API(INTERNAL), and is not reached: one of both")
                .isNotEqualTo(reached.contains(type)));
        assertThat(reached).hasSizeBetween(50, 275);
    }

    @Test
    void examplesGoThroughTheDoor() {
        noClasses()
                .that()
                .resideInAPackage("org.orderlyferry.examples")
                .should()
                .dependOnClassesThat(DescribedPredicate.describe(
                        "are internal",
                        c -> c.getPackageName().startsWith("org.orderlyferry.") && isInternal(c.reflect())))
                .check(ALL);
    }
}
