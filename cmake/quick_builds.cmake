# What makes a build quick: sources compiled together, and headers compiled once, both so that a compiler cache finds in
# one checkout what it compiled in another.

# CMake names clang the header too, by a full way that ccache does not see through: nothing was found in another checkout.
if(CMAKE_CXX_COMPILER_ID MATCHES Clang)
    set(CMAKE_CXX_COMPILE_OPTIONS_USE_PCH -include-pch <PCH_FILE>)
endif()

# System headers, compiled once for a target.  Compilers never write the same bytes twice; what is compiled with them is
# found in the cache under this sum instead, which is why none of our own headers may be among them.
function(kollema_precompile target)
    target_precompile_headers(${target} PRIVATE ${ARGN})
    set(suffix gch)
    if(CMAKE_CXX_COMPILER_ID MATCHES Clang)
        set(suffix pch)
    endif()
    file(CONFIGURE OUTPUT ${CMAKE_CURRENT_BINARY_DIR}/CMakeFiles/${target}.dir/cmake_pch.hxx.${suffix}.sum @ONLY CONTENT
        "${ARGN} ${CMAKE_CXX_COMPILER_VERSION} ${fmt_VERSION} ${Eigen3_VERSION} ${tl-expected_VERSION} ${Qt6_VERSION} ${Catch2_VERSION} ${OpenCASCADE_VERSION}\n")
endfunction()

# For what only shows, asks and tests: two thirds of the time to compile.  (The core read files three times as slowly so.)
# What is precompiled for it is so as well.
function(kollema_light)
    foreach(target IN LISTS ARGN)
        target_compile_options(${target} PRIVATE $<$<AND:$<CXX_COMPILER_ID:GNU>,$<NOT:$<BOOL:${KOLLEMA_SANITIZE}>>>:-Og>)
    endforeach()
endfunction()

# What Qt's moc makes of a target's headers, for their sources to include.  As CMake's AUTOMOC, whose moc also reads all that
# they include: 20 s against 1.
function(kollema_mocs target)
    get_target_property(headers ${target} SOURCES)
    list(FILTER headers INCLUDE REGEX "\\.hpp$")
    set(folder ${CMAKE_CURRENT_BINARY_DIR}/mocs)
    set(mocs "")
    foreach(header IN LISTS headers)
        get_filename_component(name ${header} NAME_WE)
        set(moc ${folder}/moc_${name}.cpp)
        add_custom_command(OUTPUT ${moc} DEPENDS ${header} VERBATIM
            COMMAND Qt6::moc --no-notes ${CMAKE_CURRENT_SOURCE_DIR}/${header} -o ${moc})
        list(APPEND mocs ${moc})
    endforeach()
    file(MAKE_DIRECTORY ${folder})
    add_custom_target(${target}_mocs DEPENDS ${mocs})
    add_dependencies(${target} ${target}_mocs)
    target_include_directories(${target} PRIVATE ${folder})
endfunction()

# Several sources at once: half the time where all is built.  As CMake's own UNITY_BUILD, but with relative ways to them.

# One source of TARGET that holds the given ones.  No two may use one name for different things of their own.
function(kollema_as_one target name)
    set(folder ${CMAKE_CURRENT_BINARY_DIR}/together)
    set(text "")
    foreach(source IN LISTS ARGN)
        get_filename_component(source ${source} ABSOLUTE)
        file(RELATIVE_PATH way ${folder} ${source})
        string(APPEND text "#include \"${way}\"\n")
    endforeach()
    set(together ${folder}/${target}_${name}.cpp)
    file(CONFIGURE OUTPUT ${together} CONTENT "${text}" @ONLY) # leaves alone what is the same
    set_source_files_properties(${ARGN} PROPERTIES HEADER_FILE_ONLY ON)
    target_sources(${target} PRIVATE ${together})
endfunction()

# Twelve sources at a time of each target, but for those that are compiled in a way of their own.
function(kollema_together)
    if(NOT KOLLEMA_TOGETHER)
        return()
    endif()
    foreach(target IN LISTS ARGN)
        get_target_property(sources ${target} SOURCES)
        list(FILTER sources INCLUDE REGEX "\\.cpp$")
        set(batch "")
        set(number 0)
        foreach(source IN LISTS sources)
            get_source_file_property(alone ${source} SKIP_UNITY_BUILD_INCLUSION)
            get_source_file_property(options ${source} COMPILE_OPTIONS)
            if(alone OR options)
                continue()
            endif()
            list(APPEND batch ${source})
            list(LENGTH batch length)
            if(length EQUAL 12)
                kollema_as_one(${target} ${number} ${batch})
                math(EXPR number "${number} + 1")
                set(batch "")
            endif()
        endforeach()
        if(batch)
            kollema_as_one(${target} ${number} ${batch})
        endif()
    endforeach()
endfunction()
