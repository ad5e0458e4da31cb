package main
import ("fmt";"os";"dynacor/internal/recipes";"path/filepath")
func main(){ fs,_:=filepath.Glob("internal/recipes/book/*.yaml"); for _,f:=range fs { b,_:=os.ReadFile(f); if _,err:=recipes.Read(b);err!=nil{fmt.Println(filepath.Base(f),len(b),err)} } }
