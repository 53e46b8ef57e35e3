/**
 * Lowers TypeScript to AssemblyScript, so that one source is both the kernel and its twin.
 *
 * Beginning at a few declarations, everything they need is taken along, module by module, and rewritten where the two
 * languages differ: destructuring, arrow functions, what is known not to be null, divisions of whole numbers, numbers of
 * no stated kind (f64; `i32` stands where whole ones are meant), typed arrays (views on memory). Interfaces become the
 * layout of structures in memory that the host writes; fields no kernel can hold are left out.
 *
 * @example
 * const { modules, structures } = lower({ root, roots: [['core/render/path/integrator.ts', 'Integrator']], replaced });
 */
import ts from 'typescript';
import { dirname, join, relative } from 'node:path';

const ARRAYS = { Float64Array: 'F64s', Float32Array: 'F32s', Int32Array: 'I32s', Uint32Array: 'I32s', Uint8Array: 'U8s', Int8Array: 'I8s' }; // prettier-ignore
/** Functions of `Math` that a kernel takes from its host, to the bit what TypeScript gets. */
const FROM_HOST = new Set(['sin', 'cos', 'exp', 'log', 'log1p', 'acos', 'asin', 'atan2']);
const OF_PRELUDE = new Set([...Object.values(ARRAYS), 'Pointers', 'imul', 'fround', 'toInt', 'unsigned', 'known', ...[...FROM_HOST].map(hostName)]); // prettier-ignore

function hostName(name) {
  return `host_${name}`;
}

export class CannotLower extends Error {}

/**
 * @param root of the project
 * @param roots pairs of a module, from the root, and a name it exports
 * @param prelude module with the views on memory and the host's functions
 * @param replaced by name: module that declares it instead
 * @returns text by module, from the root, and fields by structure: [name, kind, of]
 */
export function lower({ root, roots, prelude, replaced }) {
  const { options } = ts.parseJsonConfigFileContent(
    ts.readConfigFile(join(root, 'tsconfig.core.json'), ts.sys.readFile).config,
    ts.sys,
    root,
  );
  const program = ts.createProgram([...new Set(roots.map(([file]) => join(root, file)))], options);
  const checker = program.getTypeChecker();
  const factory = ts.factory;
  const printer = ts.createPrinter({ removeComments: true });
  /** By file: declarations to take along, in order of need. */
  const wanted = new Map();
  const structs = new Map();
  const queue = [];

  const fail = (node, what) => {
    const file = node.getSourceFile();
    const { line } = file.getLineAndCharacterOfPosition(node.getStart());
    throw new CannotLower(`${relative(root, file.fileName)}:${line + 1}: ${what}`);
  };
  const own = (symbol) => (symbol && symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol);

  /** Notes that a module needs a top-level name: it is taken along, and imported where it stands in another. */
  function need(symbol, from, imports) {
    const declaration = symbol?.declarations?.find((d) => d.getSourceFile().fileName.startsWith(join(root, 'core')));
    if (!declaration) return;
    let top = declaration;
    while (top.parent && !ts.isSourceFile(top.parent)) top = top.parent;
    if (ts.isVariableStatement(top) ? top.declarationList.declarations.every((d) => d !== declaration) : top !== declaration) return; // prettier-ignore
    const name = symbol.name;
    if (replaced[name]) {
      imports.set(name, replaced[name]);
      return;
    }
    const file = declaration.getSourceFile();
    if (ts.isTypeAliasDeclaration(declaration)) return;
    if (file !== from) imports.set(name, relative(root, file.fileName));
    const known = wanted.get(file) ?? new Map();
    wanted.set(file, known);
    if (known.has(declaration)) return;
    known.set(declaration, null);
    queue.push(declaration);
  }

  for (const [file, name] of roots) {
    const source = program.getSourceFile(join(root, file));
    const symbol = checker.getExportsOfModule(checker.getSymbolAtLocation(source)).find((s) => s.name === name);
    need(own(symbol), source, new Map());
  }
  const importsOf = new Map();
  const interfaces = new Set();
  /** Names of all fields that are read or written anywhere. */
  const used = new Set();
  for (let known = -1; known !== used.size || queue.length;) {
    known = used.size;
    while (queue.length) {
      const declaration = queue.shift();
      if (ts.isInterfaceDeclaration(declaration)) interfaces.add(declaration);
      else settle(declaration);
    }
    // Which fields of structures are there follows from what is used; their types may need more.
    interfaces.forEach(settle);
  }
  function settle(declaration) {
    const file = declaration.getSourceFile();
    const imports = importsOf.get(file) ?? new Map();
    importsOf.set(file, imports);
    wanted.get(file).set(declaration, lowered(declaration, file, imports));
  }

  const modules = new Map();
  for (const [file, declarations] of wanted) {
    const name = relative(root, file.fileName);
    const text = [...declarations.values()].filter(Boolean).join('\n');
    const byModule = new Map();
    for (const [what, module] of importsOf.get(file)) byModule.set(module, [...(byModule.get(module) ?? []), what]);
    for (const what of OF_PRELUDE) if (new RegExp(`\\b${what}\\b`).test(text)) byModule.set(prelude, [...(byModule.get(prelude) ?? []), what]); // prettier-ignore
    const lines = [...byModule].map(([module, names]) => {
      const path = relative(dirname(name), module).replace(/\.ts$/, '');
      return `import { ${[...new Set(names)].join(', ')} } from '${path.startsWith('.') ? path : `./${path}`}';`;
    });
    modules.set(name, `${lines.join('\n')}\n${text}\n`);
  }
  return { modules, structures: Object.fromEntries(structs) };

  /** A top-level declaration in AssemblyScript. */
  function lowered(declaration, file, imports) {
    if (ts.isInterfaceDeclaration(declaration)) return struct(declaration, file, imports);
    if (ts.isVariableDeclaration(declaration)) {
      const { initializer, name } = declaration;
      if (initializer && ts.isArrowFunction(initializer)) {
        const body = ts.isBlock(initializer.body) ? initializer.body : factory.createBlock([factory.createReturnStatement(initializer.body)]); // prettier-ignore
        const f = factory.createFunctionDeclaration(exported(), undefined, name, undefined, initializer.parameters, initializer.type ?? returnType(initializer), body); // prettier-ignore
        return print(rewrite(f, file, imports), file);
      }
      const value = constant(initializer);
      if (value === null) fail(declaration, `${name.text} is no number known beforehand`);
      return `export const ${name.text}: ${Number.isInteger(value) && Math.abs(value) < 2 ** 31 ? 'i32' : 'f64'} = ${value};`;
    }
    return print(rewrite(declaration, file, imports), file);
  }

  function exported() {
    return [factory.createModifier(ts.SyntaxKind.ExportKeyword)];
  }

  function print(node, file) {
    return printer.printNode(ts.EmitHint.Unspecified, node, file);
  }

  /** A number that an expression is, or null. */
  function constant(node) {
    if (ts.isNumericLiteral(node)) return Number(node.text);
    if (ts.isParenthesizedExpression(node) || ts.isAsExpression(node)) return constant(node.expression);
    if (ts.isPrefixUnaryExpression(node)) {
      const value = constant(node.operand);
      return value === null ? null : node.operator === ts.SyntaxKind.MinusToken ? -value : null;
    }
    if (ts.isBinaryExpression(node)) {
      const [a, b] = [constant(node.left), constant(node.right)];
      if (a === null || b === null) return null;
      const of = { '+': a + b, '-': a - b, '*': a * b, '/': a / b, '**': a ** b, '|': a | b, '<<': a << b };
      return of[node.operatorToken.getText()] ?? null;
    }
    if (ts.isPropertyAccessExpression(node)) {
      if (node.getText() === 'Math.PI') return Math.PI;
      const list = ts.isIdentifier(node.expression) && declared(node.expression)?.initializer;
      const array = list && ts.isAsExpression(list) ? list.expression : list;
      return node.name.text === 'length' && array && ts.isArrayLiteralExpression(array) ? array.elements.length : null;
    }
    if (ts.isIdentifier(node)) {
      const { initializer } = declared(node) ?? {};
      return initializer ? constant(initializer) : null;
    }
    return null;
  }

  function declared(identifier) {
    const d = own(checker.getSymbolAtLocation(identifier))?.valueDeclaration;
    return d && ts.isVariableDeclaration(d) ? d : null;
  }

  /** Layout of an interface as an unmanaged class; what no kernel can hold is left out. */
  function struct(declaration, file, imports) {
    const lines = [];
    const base = declaration.heritageClauses?.[0].types[0].expression;
    const parent = base && own(checker.getSymbolAtLocation(base));
    if (parent) need(parent, file, imports);
    const fields = parent ? [...(structs.get(parent.name) ?? [])] : [];
    for (const member of declaration.members) {
      if (!ts.isPropertySignature(member) || !member.type || !used.has(member.name.text)) continue;
      const kind = kindOf(member.type);
      if (kind === null) continue;
      fields.push([member.name.text, ...kind.layout]);
      lines.push(`  ${member.name.text}: ${kind.text};`);
      kind.needs.forEach((symbol) => need(symbol, file, imports));
    }
    structs.set(declaration.name.text, fields);
    return `@unmanaged\nexport class ${declaration.name.text} ${parent ? `extends ${parent.name} ` : ''}{\n${lines.join('\n')}\n}`;
  }

  /** How a type of a field stands in memory, or null where it cannot. */
  function kindOf(node) {
    if (ts.isUnionTypeNode(node)) {
      const parts = node.types.filter((t) => t.kind !== ts.SyntaxKind.LiteralType || t.literal.kind !== ts.SyntaxKind.NullKeyword); // prettier-ignore
      const inner = parts.length === 1 && parts.length < node.types.length ? kindOf(parts[0]) : null;
      return inner && ['array', 'struct', 'list'].includes(inner.layout[0]) ? { ...inner, text: `${inner.text} | null` } : null; // prettier-ignore
    }
    if (node.kind === ts.SyntaxKind.NumberKeyword) return { text: 'f64', layout: ['f64'], needs: [] };
    if (node.kind === ts.SyntaxKind.BooleanKeyword) return { text: 'bool', layout: ['bool'], needs: [] };
    if (ts.isArrayTypeNode(node)) {
      const inner = kindOf(node.elementType);
      return inner && ['struct', 'list'].includes(inner.layout[0])
        ? { text: `Pointers<${inner.text}>`, layout: ['list', ...inner.layout], needs: inner.needs }
        : null;
    }
    if (!ts.isTypeReferenceNode(node)) return null;
    const name = node.typeName.getText();
    if (name === 'i32' || name === 'f64') return { text: name, layout: [name], needs: [] };
    if (ARRAYS[name]) return { text: ARRAYS[name], layout: ['array'], needs: [] };
    const symbol = own(checker.getSymbolAtLocation(node.typeName));
    const isStruct = !replaced[name] && symbol?.declarations?.some(ts.isInterfaceDeclaration);
    return isStruct ? { text: name, layout: ['struct', name], needs: [symbol] } : null;
  }

  /** Node of the type that a value has, for places where AssemblyScript wants one written. */
  function typeNode(type, at) {
    const left = checker.getNonNullableType(type);
    const name = left.symbol?.name;
    const node =
      left.flags & ts.TypeFlags.NumberLike ? factory.createTypeReferenceNode('f64')
      : left.flags & ts.TypeFlags.BooleanLike ? factory.createTypeReferenceNode('bool')
      : left.flags & ts.TypeFlags.Void ? factory.createKeywordTypeNode(ts.SyntaxKind.VoidKeyword)
      : name && name !== '__type' ? factory.createTypeReferenceNode(name)
      : fail(at, 'the type cannot be told'); // prettier-ignore
    return left === type ? node : factory.createUnionTypeNode([node, factory.createLiteralTypeNode(factory.createNull())]); // prettier-ignore
  }

  function returnType(node) {
    return typeNode(checker.getReturnTypeOfSignature(checker.getSignatureFromDeclaration(node)), node);
  }

  function rewrite(declaration, file, imports) {
    let temporaries = 0;
    const original = (node) => ts.getOriginalNode(node);

    /** Whether a value that may be null is known not to be here. */
    function isNarrowed(node) {
      if (node.pos < 0 || !(ts.isIdentifier(node) || ts.isPropertyAccessExpression(node))) return false;
      const symbol = checker.getSymbolAtLocation(ts.isIdentifier(node) ? node : node.name);
      const d = symbol?.valueDeclaration;
      if (!d || !(ts.isPropertyDeclaration(d) || ts.isPropertySignature(d) || ts.isParameter(d) || ts.isVariableDeclaration(d) || ts.isBindingElement(d))) return false; // prettier-ignore
      const whole = checker.getTypeOfSymbolAtLocation(symbol, d);
      const here = checker.getTypeAtLocation(node);
      const nullable = (t) => t.isUnion() && t.types.some((p) => p.flags & (ts.TypeFlags.Null | ts.TypeFlags.Undefined)); // prettier-ignore
      return nullable(whole) && !nullable(here) && !(here.flags & (ts.TypeFlags.Null | ts.TypeFlags.Never));
    }

    function bindings(pattern, initializer, flags) {
      const out = [];
      if (ts.isObjectBindingPattern(pattern)) {
        let from = initializer;
        if (!ts.isIdentifier(from) && from.kind !== ts.SyntaxKind.ThisKeyword && !ts.isPropertyAccessExpression(from)) {
          from = factory.createIdentifier(`from${++temporaries}`);
          out.push(factory.createVariableDeclaration(from, undefined, undefined, ts.visitNode(initializer, visit)));
        }
        for (const element of pattern.elements) {
          used.add((element.propertyName ?? element.name).text);
          const value = factory.createPropertyAccessExpression(ts.visitNode(from, visit), element.propertyName ?? element.name); // prettier-ignore
          out.push(factory.createVariableDeclaration(element.name, undefined, undefined, value));
        }
      } else {
        pattern.elements.forEach((element, i) => {
          const value = ts.isArrayLiteralExpression(initializer)
            ? ts.visitNode(initializer.elements[i], visit)
            : factory.createElementAccessExpression(ts.visitNode(initializer, visit), i);
          out.push(factory.createVariableDeclaration(element.name, undefined, undefined, value));
        });
      }
      return factory.createVariableStatement(undefined, factory.createVariableDeclarationList(out, flags));
    }

    function visit(node) {
      if (ts.isTypeNode(node)) return type(node);
      if (ts.isVariableStatement(node)) {
        const { declarations, flags } = node.declarationList;
        if (declarations.some((d) => !ts.isIdentifier(d.name)))
          return declarations.map((d) =>
            ts.isIdentifier(d.name)
              ? factory.createVariableStatement(undefined, factory.createVariableDeclarationList([ts.visitNode(d, visit)], flags))
              : bindings(d.name, d.initializer, flags),
          ); // prettier-ignore
      }
      if (ts.isClassDeclaration(node)) {
        const members = node.members.map((m) => ts.visitNode(m, visit));
        const decorators = ['final', 'unmanaged'].map((d) => factory.createDecorator(factory.createIdentifier(d)));
        return factory.createClassDeclaration([...decorators, ...exported()], node.name, undefined, undefined, members);
      }
      if (ts.isFunctionDeclaration(node)) {
        const visited = ts.visitEachChild(node, visit, undefined);
        const result = visited.type ?? returnType(original(node));
        return factory.updateFunctionDeclaration(visited, exported(), undefined, visited.name, undefined, visited.parameters, result, opened(node, visited.body)); // prettier-ignore
      }
      if (ts.isMethodDeclaration(node)) {
        const visited = ts.visitEachChild(node, visit, undefined);
        return factory.updateMethodDeclaration(visited, visited.modifiers, undefined, visited.name, undefined, undefined, visited.parameters, visited.type ?? type(returnType(node)), opened(node, visited.body)); // prettier-ignore
      }
      if (ts.isConstructorDeclaration(node)) {
        const visited = ts.visitEachChild(node, visit, undefined);
        return factory.updateConstructorDeclaration(visited, visited.modifiers, visited.parameters, opened(node, visited.body)); // prettier-ignore
      }
      if (ts.isParameter(node)) {
        const name = ts.isIdentifier(node.name) ? node.name : factory.createIdentifier('context');
        const given = node.type ? type(node.type) : type(typeNode(checker.getTypeAtLocation(node), node));
        return factory.createParameterDeclaration(node.modifiers, undefined, name, undefined, given, node.initializer && ts.visitNode(node.initializer, visit)); // prettier-ignore
      }
      if (ts.isPropertyDeclaration(node)) {
        const { initializer } = node;
        let given = node.type && type(node.type);
        if (!given) {
          const at = checker.getTypeAtLocation(node);
          if (at.flags & ts.TypeFlags.NumberLike) fail(node, `say whether ${node.name.getText()} is an i32 or an f64`);
          given = type(typeNode(at, node));
        }
        // Never checked for null: a constructor sets it before anything reads it, as TypeScript has made sure.
        const isReference = !initializer && !['f64', 'i32', 'bool'].includes(given.typeName?.text);
        const value = isReference ? nothing(given) : initializer && ts.visitNode(initializer, visit);
        const modifiers = node.modifiers?.filter((m) => m.kind !== ts.SyntaxKind.ReadonlyKeyword);
        return factory.createPropertyDeclaration(modifiers, node.name, undefined, given, value);
      }
      if (ts.isNonNullExpression(node)) return known(ts.visitNode(node.expression, visit));
      if (ts.isNewExpression(node)) {
        const name = node.expression.getText();
        if (ARRAYS[name]) return factory.createNewExpression(factory.createIdentifier(ARRAYS[name]), undefined, node.arguments.map((a) => ts.visitNode(a, visit))); // prettier-ignore
      }
      if (
        ts.isCallExpression(node) &&
        ts.isPropertyAccessExpression(node.expression) &&
        node.expression.expression.getText() === 'Math'
      ) {
        const name = node.expression.name.text;
        const to = FROM_HOST.has(name) ? hostName(name) : name === 'imul' || name === 'fround' ? name : null;
        if (to) return factory.createCallExpression(factory.createIdentifier(to), undefined, node.arguments.map((a) => ts.visitNode(a, visit))); // prettier-ignore
      }
      if (ts.isBinaryExpression(node) && node.operatorToken.kind === ts.SyntaxKind.SlashToken) {
        const whole = (side) => factory.createTypeAssertion(factory.createTypeReferenceNode('f64'), factory.createParenthesizedExpression(ts.visitNode(side, visit))); // prettier-ignore
        return factory.createBinaryExpression(whole(node.left), node.operatorToken, whole(node.right));
      }
      if (isNarrowed(node)) return known(inside(node));
      return inside(node);
    }

    /** A value without its null, unchecked: TypeScript has made sure. */
    function known(value) {
      return factory.createCallExpression(factory.createIdentifier('known'), undefined, [value]);
    }

    function nothing(type) {
      return factory.createCallExpression(
        factory.createIdentifier('changetype'),
        [type],
        [factory.createNumericLiteral(0)],
      );
    }

    function inside(node) {
      if (ts.isPropertyAccessExpression(node)) used.add(node.name.text);
      if (ts.isIdentifier(node)) {
        note(node);
        return node;
      }
      if (ts.isPropertyAccessExpression(node))
        return factory.updatePropertyAccessExpression(node, ts.visitNode(node.expression, visit), node.name);
      return ts.visitEachChild(node, visit, undefined);
    }

    function note(identifier) {
      if (identifier.pos < 0) return;
      const symbol = own(checker.getSymbolAtLocation(identifier));
      if (symbol) need(symbol, file, imports);
    }

    /** Parameters that are taken apart become statements at the top of the body. */
    function opened(node, body) {
      const apart = node.parameters.filter((p) => !ts.isIdentifier(p.name));
      if (!apart.length || !body) return body;
      const statements = apart.map((p) => bindings(p.name, factory.createIdentifier('context'), ts.NodeFlags.Const));
      return factory.updateBlock(body, [...statements, ...body.statements]);
    }

    function type(node) {
      if (node.kind === ts.SyntaxKind.NumberKeyword) return factory.createTypeReferenceNode('f64');
      if (node.kind === ts.SyntaxKind.BooleanKeyword) return factory.createTypeReferenceNode('bool');
      if (ts.isUnionTypeNode(node)) return factory.createUnionTypeNode(node.types.map(type));
      if (ts.isParenthesizedTypeNode(node)) return type(node.type);
      if (ts.isArrayTypeNode(node)) return factory.createTypeReferenceNode('Pointers', [type(node.elementType)]);
      if (!ts.isTypeReferenceNode(node)) return node;
      const name = ts.isIdentifier(node.typeName) ? node.typeName.text : fail(node, 'a type of no plain name');
      if (name === 'Pick' || name === 'Omit' || name === 'Readonly') return type(node.typeArguments[0]);
      if (ARRAYS[name]) return factory.createTypeReferenceNode(ARRAYS[name]);
      if (node.pos >= 0) note(node.typeName);
      else {
        const symbol = checker.resolveName(name, declaration, ts.SymbolFlags.Type, false);
        if (symbol) need(own(symbol), file, imports);
      }
      return factory.createTypeReferenceNode(name);
    }

    return ts.visitNode(declaration, visit);
  }
}
